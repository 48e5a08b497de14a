import { useMemo } from 'react';
import { keyColumn, textColumn } from 'react-datasheet-grid';
import { Section } from '../parts/Section';
import { Sheet } from '../parts/Sheet';
import classes from './Convention.module.css';
import { type Identifier, lean } from './document';
import type { PartProps } from './EditView';

type Row = Record<'parameter' | 'source' | 'kinds' | 'token', string | null>;

const COLUMNS = [
  { ...keyColumn<Row, 'parameter'>('parameter', textColumn), title: 'Parameter' },
  { ...keyColumn<Row, 'source'>('source', textColumn), title: 'On links of the source' },
  { ...keyColumn<Row, 'kinds'>('kinds', textColumn), title: 'and of the kind (parted by ;)' },
  { ...keyColumn<Row, 'token'>('token', textColumn), title: 'Token that fills it' },
];

const blank = (): Row => ({ parameter: null, source: null, kinds: null, token: null });
const isBlank = (row: Row) => Object.values(row).every((text) => !text);

/** Parameters that tell one click from every other. */
export function IdentifiersEditor({ document, change }: PartProps) {
  const rows = useMemo(() => (document.identifiers ?? []).map(asRow), [document.identifiers]);
  return (
    <Section title="Required identifiers">
      <p className={classes.said}>
        Without them a click cannot be joined to its cost. Leave source or kind empty where a parameter is for all.
      </p>
      <Sheet
        label="Required identifiers"
        rows={rows}
        columns={COLUMNS}
        blank={blank}
        isBlank={isBlank}
        change={(changed) =>
          change({ ...document, identifiers: changed.map(asIdentifier).filter((one) => one.parameter !== '') })
        }
        height={300}
      />
    </Section>
  );
}

const asRow = (one: Identifier): Row => ({
  parameter: one.parameter,
  source: one.source ?? null,
  kinds: one.kinds?.join('; ') ?? null,
  token: one.token ?? null,
});

const asIdentifier = (row: Row): Identifier => ({
  ...lean({
    source: row.source ?? '',
    kinds: (row.kinds ?? '')
      .split(';')
      .map((one) => one.trim())
      .filter(Boolean),
    token: row.token ?? '',
  }),
  parameter: (row.parameter ?? '').trim(),
});
