import { Button, Group, TextInput } from '@mantine/core';
import { useElementSize, useHotkeys } from '@mantine/hooks';
import { useQuery } from '@tanstack/react-query';
import { useMemo, useRef, useState } from 'react';
import type { DataSheetGridRef } from 'react-datasheet-grid';
import { useParams } from 'react-router';
import { acts } from '../api/acts';
import type { Schema } from '../api/client';
import { notices } from '../api/notices';
import { queries } from '../api/queries';
import { useAct } from '../api/useAct';
import { Failure } from '../parts/Failure';
import { Foldout } from '../parts/Foldout';
import { count, counted } from '../parts/format';
import { Sheet } from '../parts/Sheet';
import { Toolbar } from '../parts/Toolbar';
import { useWorkspace } from '../session/useWorkspace';
import classes from './Build.module.css';
import { columnsOf, VerdictOf } from './columns';
import { FanOut } from './FanOut';
import { FromAds } from './FromAds';
import { RowEvidence } from './RowEvidence';
import { blankRow, type GridRow, isBlank, toBuild, toGrid } from './rows';
import { useSheet } from './useSheet';
import { useVerdicts } from './useVerdicts';

/** One build sheet: the grid, with what the rules say of the row at hand beside it. */
export function SheetView() {
  const { name } = useWorkspace();
  const { id = '' } = useParams();
  const sheet = useQuery(queries.sheet(name, Number(id)));
  const places = useQuery(queries.places(name));
  if (sheet.isError || places.isError) {
    return <Failure error={(sheet.error ?? places.error) as Error} />;
  }
  return sheet.data && places.data ? <Bench key={id} sheet={sheet.data} places={places.data} /> : null;
}

const STATE = {
  kept: 'kept',
  waiting: 'keeping …',
  overtaken: 'somebody else changed this sheet: copy your rows into one of your own',
  failed: 'not kept: Orvant does not answer',
};

function Bench({ sheet, places }: { sheet: Schema['SheetDetail']; places: Schema['BuildPlaces'] }) {
  const { name } = useWorkspace();
  const kept = useSheet(name, sheet);
  const { rows, change, undo, redo } = kept;
  const verdictOf = useVerdicts(name, rows);
  const grid = useRef<DataSheetGridRef>(null);
  const { ref, height } = useElementSize();
  const [active, setActive] = useState<{ row: number | undefined; column: string | undefined }>();
  const columns = useMemo(() => columnsOf(places, verdictOf), [places, verdictOf]);
  const row = active?.row === undefined ? undefined : rows[active.row];
  const write = (changes: GridRow) =>
    change(rows.map((one, index) => (index === active?.row ? { ...one, ...changes } : one)));
  const add = (fresh: Schema['BuildRow'][]) => change([...rows.filter((one) => !isBlank(one)), ...fresh.map(toGrid)]);

  useHotkeys(
    [
      ['mod+Z', undo],
      ['mod+shift+Z', redo],
      ['mod+Y', redo],
      ['mod+.', () => write(meantOf(verdictOf(row), active?.column))],
    ],
    [],
  );

  return (
    <div className={classes.bench}>
      <Toolbar>
        <TextInput
          aria-label="Name of the sheet"
          value={kept.name}
          w={190}
          onChange={(event) => kept.rename(event.currentTarget.value)}
        />
        <FanOut places={places} onRows={add} />
        <FromAds places={places} onRows={add} />
        <Button onClick={undo}>Undo</Button>
        <Button onClick={redo}>Redo</Button>
        <KeepTemplate rows={rows} />
        <Leaving sheet={sheet} rows={rows} verdictOf={verdictOf} ready={kept.state === 'kept'} />
        <Toolbar.Rest>
          <Standing verdicts={rows.map(verdictOf)} state={kept.state} />
        </Toolbar.Rest>
      </Toolbar>
      <div className={classes.body}>
        <div ref={ref} className={classes.grid}>
          <VerdictOf value={verdictOf}>
            <Sheet
              ref={grid}
              label="Rows"
              rows={rows}
              columns={columns}
              blank={blankRow}
              isBlank={isBlank}
              spare={30}
              change={change}
              height={Math.max(height, 200)}
              cellClass={({ rowData, columnId }) => {
                const weight = verdictOf(rowData as GridRow)?.cells[columnId ?? '']?.weight;
                return weight ? classes[`cell-${weight}`] : undefined;
              }}
              onFillDown={() => change(filledDown(rows, columns, grid.current))}
              onActive={(at, column) => at !== undefined && setActive({ row: at, column })}
            />
          </VerdictOf>
        </div>
        <RowEvidence
          key={active?.row}
          sheet={sheet}
          row={row}
          number={active?.row}
          verdict={verdictOf(row)}
          write={write}
        />
      </div>
    </div>
  );
}

/** The value that was meant in the cell at hand, or in all cells of the row where none is at hand. */
function meantOf(verdict: Schema['BuiltRow'] | undefined, column: string | undefined): GridRow {
  const cells = Object.entries(verdict?.cells ?? {}).filter(
    ([name, cell]) => cell.meant && (!column || name === column),
  );
  return Object.fromEntries(cells.map(([name, cell]) => [name, cell.meant]));
}

/** Every chosen column as its first chosen row has it. */
function filledDown(rows: GridRow[], columns: { id?: string; disabled?: unknown }[], grid: DataSheetGridRef | null) {
  const chosen = grid?.selection;
  const first = chosen && rows[chosen.min.row];
  if (!first) {
    return rows;
  }
  const names = columns.slice(chosen.min.col, chosen.max.col + 1).filter((column) => column.id && !column.disabled);
  const values = Object.fromEntries(names.map(({ id = '' }) => [id, first[id] ?? null]));
  return rows.map((row, index) => (index > chosen.min.row && index <= chosen.max.row ? { ...row, ...values } : row));
}

function KeepTemplate({ rows }: { rows: GridRow[] }) {
  const { name } = useWorkspace();
  const [title, setTitle] = useState('');
  const keep = useAct(name, () =>
    acts.keepTemplate(name, { name: title, rows: rows.filter((row) => !isBlank(row)).map(toBuild) }),
  );
  return (
    <Foldout side="start" button={<Button>Keep as a template …</Button>}>
      {() => (
        <>
          <p className={classes.faint}>
            Write what changes each time as ‹a field›, in any cell: letter-‹month›. Filling in the fields makes the
            rows.
          </p>
          <Group gap={6} align="end">
            <TextInput label="Name" value={title} onChange={(event) => setTitle(event.currentTarget.value)} />
            <Button
              disabled={!title.trim()}
              onClick={() =>
                keep.mutate(undefined, {
                  onSuccess: (template) =>
                    notices.show({
                      message: `“${template.name}” is kept with ${counted(template.fields.length, 'field')}.`,
                    }),
                })
              }
            >
              Keep the template
            </Button>
          </Group>
        </>
      )}
    </Foldout>
  );
}

interface LeavingProps {
  sheet: Schema['SheetDetail'];
  rows: GridRow[];
  verdictOf: (row: GridRow) => Schema['BuiltRow'] | undefined;
  ready: boolean;
}

/** The ways out of the sheet. A rejected row takes none of them unless it is said why. */
function Leaving({ sheet, rows, verdictOf, ready }: LeavingProps) {
  const { name } = useWorkspace();
  const release = useAct(name, () => acts.releaseSheet(name, sheet.id));
  const verdicts = rows.map(verdictOf).filter((one) => one !== undefined);
  const leaving = verdicts.filter((one) => one.leaves);
  const held = verdicts.length - leaving.length;
  const copy = async () => {
    await navigator.clipboard.writeText(leaving.map((one) => one.address).join('\n'));
    notices.show({ message: `${counted(leaving.length, 'link is', 'links are')} on the clipboard.` });
  };
  const copyTable = async () => {
    const names = [...new Set(rows.flatMap((row) => Object.keys(toBuild(row).values)))];
    const lines = rows.flatMap((row) => {
      const verdict = verdictOf(row);
      return verdict?.leaves
        ? [
            [verdict.address, row.kind, verdict.channel, ...names.map((name) => row[name])]
              .map((text) => text ?? '')
              .join('\t'),
          ]
        : [];
    });
    await navigator.clipboard.writeText([['address', 'kind', 'channel', ...names].join('\t'), ...lines].join('\n'));
    notices.show({
      message: `${counted(leaving.length, 'row is', 'rows are')} on the clipboard, to paste into a spreadsheet.`,
    });
  };
  const base = `/api/workspaces/${name}/sheets/${sheet.id}/links`;
  return (
    <>
      <Button
        variant="filled"
        disabled={leaving.length === 0 || !ready}
        onClick={() =>
          release.mutate(undefined, {
            onSuccess: (answer) =>
              notices.show({
                message: `${counted(answer.left, 'link is', 'links are')} in the inventory${answer.held > 0 ? `; ${counted(answer.held, 'row stays', 'rows stay')} behind` : ''}.`,
              }),
          })
        }
      >
        Put {counted(leaving.length, 'link')} into the inventory
      </Button>
      <Foldout side="start" button={<Button disabled={leaving.length === 0}>Export …</Button>}>
        {() => (
          <>
            <Group gap={6}>
              <Button onClick={copy}>Copy {counted(leaving.length, 'link')}</Button>
              <Button onClick={copyTable}>Copy as a table</Button>
              {['csv', 'xlsx', 'json'].map((form) => (
                <Button key={form} component="a" href={`${base}.${form}`} download aria-disabled={!ready}>
                  {form.toUpperCase()}
                </Button>
              ))}
            </Group>
            {held > 0 && (
              <p className={classes.faint}>
                {counted(held, 'rejected row stays', 'rejected rows stay')} behind until it is said why they leave.
              </p>
            )}
          </>
        )}
      </Foldout>
    </>
  );
}

/** How the rows stand, and whether what was typed is kept. verdicts: undefined for blank rows. */
function Standing({
  verdicts,
  state,
}: {
  verdicts: ReturnType<ReturnType<typeof useVerdicts>>[];
  state: keyof typeof STATE;
}) {
  const judged = verdicts.filter((one) => one !== undefined);
  return (
    <>
      <span role="status">
        {counted(judged.length, 'row')}, {count(judged.filter((one) => one.rejected).length)} rejected
      </span>
      <span className={classes.state} data-state={state}>
        {STATE[state]}
      </span>
    </>
  );
}
