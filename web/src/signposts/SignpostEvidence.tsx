import { Button, Group, TextInput } from '@mantine/core';
import { useQuery } from '@tanstack/react-query';
import { useState } from 'react';
import { Link } from 'react-router';
import { acts, type SignpostWish } from '../api/acts';
import type { Schema } from '../api/client';
import { queries } from '../api/queries';
import { useAct } from '../api/useAct';
import { Copy } from '../parts/Copy';
import { Failure } from '../parts/Failure';
import { atMoment, count, counted } from '../parts/format';
import { Loading } from '../parts/Loading';
import { offer } from '../parts/offer';
import { Section } from '../parts/Section';
import { useAuthor } from '../parts/useAuthor';
import { May } from '../session/May';
import { useWorkspace } from '../session/useWorkspace';
import { PassingOn } from './SignpostForm';
import classes from './Signposts.module.css';

type Detail = Schema['SignpostDetail'];

/** One signpost: its code, where it leads and led, and who passed. */
export function SignpostEvidence({ id, server }: { id: number; server: string }) {
  const { name } = useWorkspace();
  const detail = useQuery(queries.signpost(name, id));
  if (detail.isError) {
    return <Failure error={detail.error} />;
  }
  if (!detail.data) {
    return <Loading />;
  }
  const post = detail.data;
  const base = `/api/workspaces/${name}/signposts/${id}`;
  return (
    <div className={classes.evidence}>
      <h2 className={classes.address}>{post.address}</h2>
      <div className={classes.code}>
        <img src={`${base}/qr.svg`} alt={`Code of ${post.address}`} />
        <div>
          <Group gap={6}>
            <Copy text={post.address} what="address" />
            <Button component="a" href={`${base}/qr.svg`} download={`${post.path.slice(1)}.svg`}>
              Code as SVG
            </Button>
            <Button component="a" href={`${base}/qr.png?download=1`}>
              Code as PNG
            </Button>
            <Button onClick={() => window.print()}>Print with caption</Button>
          </Group>
          {server && (
            <p className={classes.faint}>
              Served at {server}
              {post.path} for the host {post.host}.
            </p>
          )}
          {post.link_id !== null && (
            <p>
              <Link to={`/w/${name}/links?chosen=${post.link_id}`}>It leads to a link of the inventory</Link>
            </p>
          )}
        </div>
      </div>
      <div className={classes.sheet} aria-hidden>
        <img src={`${base}/qr.svg`} alt="" />
        <p>{post.caption}</p>
        <p>{post.address.replace(/^http:\/\//, '')}</p>
      </div>
      <Passes post={post} />
      <May least="editor">
        <Change key={post.target + post.ends} post={post} />
      </May>
      <Section title="Where it led">
        <table className={classes.table}>
          <tbody>
            {post.targets.map((target) => (
              <tr key={target.since + target.target}>
                <td className={classes.faint}>{atMoment(target.since)}</td>
                <td className={classes.mono}>{target.target}</td>
                <td className={classes.faint}>{[target.author, target.note].filter(Boolean).join(': ')}</td>
              </tr>
            ))}
          </tbody>
        </table>
      </Section>
    </div>
  );
}

function Passes({ post }: { post: Detail }) {
  const most = Math.max(...post.by_day.map((day) => day.passes), 1);
  const told = (counts: Record<string, number>) =>
    Object.entries(counts)
      .toSorted(([, one], [, other]) => other - one)
      .map(([name, passes]) => `${name || 'none'} ${count(passes)}`)
      .join(', ');
  return (
    <Section
      title={`${counted(post.counts.passes, 'pass', 'passes')} by people`}
      aside={`${counted(post.counts.first, 'visitor')} by day, ${counted(post.counts.bots, 'pass', 'passes')} by bots`}
    >
      {post.by_day.length > 0 && (
        <div className={classes.bars} role="img" aria-label="Passes of the last 30 days">
          {post.by_day.map((day) => (
            <span
              key={day.day}
              style={{ height: `${(day.passes / most) * 100}%` }}
              title={`${day.day}: ${counted(day.passes, 'pass', 'passes')}`}
            />
          ))}
        </div>
      )}
      <p>
        Devices: {told(post.by_device) || '–'}. Came from: {told(post.by_referrer) || '–'}.
      </p>
      <details>
        <summary>The last {counted(post.last.length, 'pass', 'passes')}</summary>
        <table className={classes.table}>
          <tbody>
            {post.last.map((pass, index) => (
              <tr key={index}>
                <td>{atMoment(pass.at)}</td>
                <td>{pass.bot ? 'bot' : pass.device}</td>
                <td>{pass.referrer || 'no referrer'}</td>
                <td>{pass.repeat ? 'again' : ''}</td>
              </tr>
            ))}
          </tbody>
        </table>
      </details>
    </Section>
  );
}

/** Turning it to another target, ending it, taking it down. */
function Change({ post }: { post: Detail }) {
  const { name } = useWorkspace();
  const { author } = useAuthor();
  const [wish, setWish] = useState<SignpostWish>({
    target: post.target,
    caption: post.caption,
    ends: post.ends,
    pass_on: post.pass_on,
  });
  const change = useAct(name, () => acts.changeSignpost(name, post.id, { ...wish, author }));
  const up = useAct(name, () => acts.putSignpostUpAgain(name, post.id));
  const down = useAct(name, () => acts.takeSignpostDown(name, post.id));
  const text = (field: keyof SignpostWish, label: string) => (
    <TextInput
      label={label}
      value={wish[field] ?? ''}
      onChange={(event) => setWish({ ...wish, [field]: event.currentTarget.value })}
    />
  );
  return (
    <Section title="Lead it elsewhere">
      <form
        className={classes.form}
        onSubmit={(event) => {
          event.preventDefault();
          change.mutate(undefined);
        }}
      >
        {text('target', 'Leads to')}
        {text('note', 'Why it is turned')}
        {text('caption', 'Caption')}
        {text('ends', 'Last day')}
        <PassingOn value={wish.pass_on ?? 'keep'} change={(pass_on) => setWish({ ...wish, pass_on })} />
        <Group gap={6}>
          <Button type="submit" variant="filled">
            Change the signpost
          </Button>
          <Button
            onClick={() =>
              down.mutate(undefined, {
                onSuccess: () => offer(`${post.address} is taken down.`, 'Put it up again', () => up.mutate(undefined)),
              })
            }
          >
            Take it down
          </Button>
        </Group>
      </form>
    </Section>
  );
}
