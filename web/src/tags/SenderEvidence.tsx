import { Autocomplete, Button, Group } from '@mantine/core';
import { useState } from 'react';
import { Link } from 'react-router';
import { acts } from '../api/acts';
import type { Schema } from '../api/client';
import { useAct } from '../api/useAct';
import { Facts } from '../parts/Facts';
import { atMoment, counted } from '../parts/format';
import { Section } from '../parts/Section';
import { useAuthor } from '../parts/useAuthor';
import { May } from '../session/May';
import { useWorkspace } from '../session/useWorkspace';
import { decided } from './SendersView';
import classes from './TagsView.module.css';

interface SenderEvidenceProps {
  sender: Schema['Sender'];
  /** Readable names of the tags that are described. */
  tags: Record<string, string>;
}

/** One sender: an example of what was held, the pages it was sent from, and what a person makes of it. */
export function SenderEvidence({ sender, tags }: SenderEvidenceProps) {
  const { name } = useWorkspace();
  const { author } = useAuthor();
  const [tag, setTag] = useState('');
  const decide = useAct(name, (wish: { decision: string; tag?: string }) =>
    acts.decideSender(name, sender.id, { ...wish, author }),
  );
  return (
    <>
      <h2>{sender.host}</h2>
      <Facts
        facts={[
          ['who', `${decided(sender, tags)}${sender.decided_by ? `, says ${sender.decided_by}` : ''}`],
          ['sent', `${counted(sender.times, 'time')} as ${sender.ways.join(', ')}, last ${atMoment(sender.seen_at)}`],
        ]}
      />
      <May least="owner">
        <Section title="Who is it?" aside="sweeps from now on go by it">
          <Group gap={8} align="end" className={classes.deeds}>
            <Autocomplete
              size="xs"
              label="A tag"
              placeholder="Name of the tag"
              data={Object.values(tags)}
              value={tag}
              onChange={setTag}
            />
            <Button disabled={!tag.trim()} onClick={() => decide.mutate({ decision: 'tag', tag })}>
              Hear it as this tag
            </Button>
          </Group>
          <Group gap={8} mt={8}>
            <Button onClick={() => decide.mutate({ decision: 'through' })} disabled={sender.decision === 'through'}>
              Pages need it: let through
            </Button>
            <Button onClick={() => decide.mutate({ decision: 'held' })} disabled={sender.decision === 'held'}>
              Leave it held
            </Button>
            {sender.decision !== '' && (
              <Button variant="subtle" onClick={() => decide.mutate({ decision: '' })}>
                Take that back
              </Button>
            )}
          </Group>
        </Section>
      </May>
      <Section title="An example of what was held">
        <p className={classes.example}>{sender.example}</p>
        {sender.body && <p className={classes.example}>{sender.body}</p>}
      </Section>
      {sender.proposed.length > 0 && (
        <Section title="What its fields may be" aside="a tag that is new begins with these">
          <table className={classes.signals}>
            <tbody>
              {sender.proposed.map((one) => (
                <tr key={one.field}>
                  <td>{one.field}</td>
                  <td>
                    <code>
                      {one.name}={one.value}
                    </code>
                    <br />
                    {one.why}
                  </td>
                </tr>
              ))}
            </tbody>
          </table>
        </Section>
      )}
      <SentFrom sender={sender} />
    </>
  );
}

/** The pages that sent to it: those that were watched lead to what was seen, others to the links that pass them. */
function SentFrom({ sender }: { sender: Schema['Sender'] }) {
  const { name } = useWorkspace();
  return (
    <Section title={`Sent from ${counted(sender.pages.length, 'page')}`}>
      {sender.pages.map((page) => (
        <p key={page} className={classes.page}>
          <Link
            to={`/w/${name}/${sender.passed.includes(page) ? 'links?q' : 'tags?chosen'}=${encodeURIComponent(page)}`}
          >
            {page}
          </Link>
        </p>
      ))}
    </Section>
  );
}
