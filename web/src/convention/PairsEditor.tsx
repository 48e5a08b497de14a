import { Button, FileButton } from '@mantine/core';
import { useMemo } from 'react';
import { keyColumn, textColumn } from 'react-datasheet-grid';
import { acts } from '../api/acts';
import { useAct } from '../api/useAct';
import { Section } from '../parts/Section';
import { Sheet } from '../parts/Sheet';
import { useWorkspace } from '../session/useWorkspace';
import classes from './Convention.module.css';
import { lean, type Pair } from './document';
import type { PartProps } from './EditView';

interface Row {
  source: string | null;
  medium: string | null;
  kinds: string | null;
}

const COLUMNS = [
  { ...keyColumn<Row, 'source'>('source', textColumn), title: 'Source' },
  { ...keyColumn<Row, 'medium'>('medium', textColumn), title: 'Medium' },
  { ...keyColumn<Row, 'kinds'>('kinds', textColumn), title: 'On links of the kind (parted by ;)' },
];

const blank = (): Row => ({ source: null, medium: null, kinds: null });
const isBlank = (row: Row) => Object.values(row).every((text) => !text);

/** Which source goes with which medium, and on what kinds of link. */
export function PairsEditor({ document, change }: PartProps) {
  const { name } = useWorkspace();
  const pairs = document.pairs ?? [];
  const rows = useMemo(() => (document.pairs ?? []).map(asRow), [document.pairs]);
  const read = useAct(name, async (file: File) => acts.readTable(name, 'pairs', await file.text()));
  const take = async (file: File | null) => {
    if (file) {
      const { pairs: fresh = [] } = await read.mutateAsync(file);
      const known = (pair: Pair) => fresh.some((one) => one.source === pair.source && one.medium === pair.medium);
      change({ ...document, pairs: [...pairs.filter((pair) => !known(pair)), ...fresh] });
    }
  };
  return (
    <Section
      title="Permitted together"
      aside={
        <FileButton onChange={take} accept=".csv,.tsv,.txt">
          {(props) => <Button {...props}>Take pairs from a CSV file</Button>}
        </FileButton>
      }
    >
      <p className={classes.said}>
        A source with a medium that is not its own puts visits into the wrong channel. Where each pair leads is decided
        by the channel rules, and shown under Rules.
      </p>
      <Sheet
        label="Permitted pairs"
        rows={rows}
        columns={COLUMNS}
        blank={blank}
        isBlank={isBlank}
        change={(changed) =>
          change({ ...document, pairs: changed.map(asPair).filter((pair) => pair.source !== '' || pair.medium !== '') })
        }
        height={560}
      />
    </Section>
  );
}

const asRow = (pair: Pair): Row => ({
  source: pair.source,
  medium: pair.medium,
  kinds: pair.kinds?.join('; ') ?? null,
});

const asPair = (row: Row): Pair => ({
  ...lean({
    kinds: (row.kinds ?? '')
      .split(';')
      .map((one) => one.trim())
      .filter(Boolean),
  }),
  source: (row.source ?? '').trim(),
  medium: (row.medium ?? '').trim(),
});
