import { Button, Group, Textarea, TextInput } from '@mantine/core';
import { useDebouncedValue } from '@mantine/hooks';
import { useQuery } from '@tanstack/react-query';
import { useState } from 'react';
import { Link } from 'react-router';
import { acts } from '../api/acts';
import type { Schema } from '../api/client';
import { queries } from '../api/queries';
import { useAct } from '../api/useAct';
import { Copy } from '../parts/Copy';
import { useAuthor } from '../parts/useAuthor';
import { Weight } from '../parts/Weight';
import { useWorkspace } from '../session/useWorkspace';
import classes from './Build.module.css';
import type { GridRow } from './rows';

interface RowEvidenceProps {
  sheet: Schema['SheetDetail'];
  row: GridRow | undefined;
  number: number | undefined;
  verdict: Schema['BuiltRow'] | undefined;
  write: (changes: GridRow) => void;
}

/** What the rules say of the row at hand, and what to do about it. */
export function RowEvidence({ sheet, row, number, verdict, write }: RowEvidenceProps) {
  if (!row || number === undefined) {
    return (
      <aside className={classes.side} aria-label="The row at hand">
        <p className={classes.faint}>
          Choose a cell. Type, paste a block, or fill down by the corner of the choice or with Ctrl+D; Ctrl+Z takes the
          last step back; Ctrl+. writes the value that was meant.
        </p>
        <Whereabouts sheet={sheet} />
      </aside>
    );
  }
  return (
    <aside className={classes.side} aria-label="The row at hand">
      <h3>Row {number + 1}</h3>
      {verdict?.address && (
        <>
          <p className={classes.address}>{verdict.address}</p>
          <Copy text={verdict.address} what="finished link" />
        </>
      )}
      <Landing address={row.landing ?? ''} write={write} />
      {Object.entries(verdict?.cells ?? {}).map(([name, cell]) => (
        <Cell key={name} name={name} cell={cell} value={row[name] ?? ''} write={write} />
      ))}
      {verdict?.findings
        .filter((finding) => !Object.values(verdict.cells).some((cell) => cell.message === finding.message))
        .map((finding) => (
          <article key={finding.code + finding.message} className={classes.finding}>
            <h4>
              <Weight weight={finding.weight} word /> <code>{finding.code}</code>
            </h4>
            <p>{finding.message}</p>
          </article>
        ))}
      {verdict?.rejected && verdict.address && (
        <Textarea
          label="Why it leaves nevertheless"
          description="A rejected row stays behind unless this says why; the reason is kept."
          value={row.exception ?? ''}
          onChange={(event) => write({ exception: event.currentTarget.value || null })}
          autosize
          minRows={2}
        />
      )}
      {verdict && !verdict.rejected && (
        <p className={classes.faint}>Nothing is wrong; its visits count as {verdict.channel}.</p>
      )}
    </aside>
  );
}

type CellVerdict = Schema['BuiltRow']['cells'][string];

function Cell({
  name,
  cell,
  value,
  write,
}: {
  name: string;
  cell: CellVerdict;
  value: string;
  write: (changes: GridRow) => void;
}) {
  return (
    <article className={classes.finding}>
      <h4>
        <Weight weight={cell.weight} word /> {name} <code>{cell.code}</code>
      </h4>
      <p>{cell.message}</p>
      <Group gap={6}>
        {cell.meant && <Button onClick={() => write({ [name]: cell.meant })}>Write “{cell.meant}”</Button>}
        {cell.proposable && value && <Propose role={name} value={value} />}
      </Group>
    </article>
  );
}

function Propose({ role, value }: { role: string; value: string }) {
  const { name } = useWorkspace();
  const { author, setAuthor } = useAuthor();
  const [open, setOpen] = useState(false);
  const [reason, setReason] = useState('');
  const propose = useAct(name, () => acts.proposeValue(name, { role, value, reason, author }));
  if (propose.isSuccess) {
    return <span className={classes.faint}>Proposed{propose.data.owner && ` to ${propose.data.owner}`}.</span>;
  }
  return open ? (
    <Group gap={6} align="end">
      <TextInput label="Why it is needed" value={reason} onChange={(event) => setReason(event.currentTarget.value)} />
      <TextInput label="By" value={author} onChange={(event) => setAuthor(event.currentTarget.value)} />
      <Button onClick={() => propose.mutate(undefined)}>Propose “{value}”</Button>
    </Group>
  ) : (
    <Button onClick={() => setOpen(true)}>Propose “{value}” …</Button>
  );
}

/** Whether the landing address keeps its parameters: followed once, when its typing has come to rest. */
function Landing({ address, write }: { address: string; write: (changes: GridRow) => void }) {
  const { name } = useWorkspace();
  const [settled] = useDebouncedValue(address.trim(), 800);
  const landing = useQuery({
    queryKey: ['landing', name, settled],
    queryFn: () => acts.checkLanding(name, settled),
    enabled: /^https?:\/\/[^/]+/i.test(settled),
    staleTime: 300_000,
    retry: false,
  });
  if (!landing.data) {
    return landing.isFetching ? <p className={classes.faint}>Following the landing address …</p> : null;
  }
  const { outcome, reason, lost, hops, offer, own } = landing.data;
  return (
    <article className={classes.finding}>
      <h4>Landing address</h4>
      {outcome !== 'landed' && <p>It does not lead to a page: {reason ?? outcome}</p>}
      {outcome === 'landed' && lost.length > 0 && (
        <p>
          It would lose{' '}
          {lost.length === 1 ? lost[0] : `its ${lost.length} parameters (${lost.slice(0, 3).join(', ')} …)`} on the way.
        </p>
      )}
      {outcome === 'landed' && lost.length === 0 && hops.length > 1 && (
        <p>It is passed on, and keeps its parameters.</p>
      )}
      {outcome === 'landed' && lost.length === 0 && hops.length === 1 && <p>It keeps its parameters.</p>}
      {!own && <p>It is on no host of your own.</p>}
      {hops.length > 1 && (
        <ol className={classes.hops}>
          {hops.map((hop) => (
            <li key={hop.address}>
              {hop.status ?? '–'} {hop.address}
            </li>
          ))}
        </ol>
      )}
      {offer && (
        <>
          <p>This one keeps them and is reached at once:</p>
          <p className={classes.address}>{offer}</p>
          <Button onClick={() => write({ landing: offer })}>Write that address instead</Button>
        </>
      )}
    </article>
  );
}

const SEEN = { 'as built': 'seen as built', otherwise: 'seen otherwise', 'not yet': 'not seen elsewhere yet' };

/** What became of the links that left. */
function Whereabouts({ sheet }: { sheet: Schema['SheetDetail'] }) {
  const { name } = useWorkspace();
  const whereabouts = useQuery(queries.whereabouts(name, sheet.id));
  const rows = whereabouts.data?.rows ?? [];
  if (rows.length === 0) {
    return null;
  }
  const tally = Map.groupBy(rows, (row) => row.seen);
  return (
    <section>
      <h3>What became of them</h3>
      {[...tally].map(([seen, some]) => (
        <details key={seen} open={seen === 'otherwise'}>
          <summary>
            {some.length} {SEEN[seen]}
          </summary>
          <ul className={classes.hops}>
            {some.slice(0, 100).map((row) => (
              <li key={row.link_id}>
                <Link to={`/w/${name}/links?chosen=${row.link_id}`}>{row.address}</Link>
                {row.other && (
                  <>
                    {' '}
                    but published as <Link to={`/w/${name}/links?chosen=${row.other_id}`}>{row.other}</Link>
                  </>
                )}
              </li>
            ))}
          </ul>
        </details>
      ))}
    </section>
  );
}
