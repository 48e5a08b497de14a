import { useMemo } from 'react';
import { checkboxColumn, keyColumn, textColumn } from 'react-datasheet-grid';
import { Section } from '../parts/Section';
import { Sheet } from '../parts/Sheet';
import classes from './Convention.module.css';
import { type Identifier, lean } from './document';
import type { PartProps } from './EditView';

type Row = Record<'parameter' | 'source' | 'network' | 'kinds' | 'token', string | null> & { paid: boolean };

const COLUMNS = [
  { ...keyColumn<Row, 'parameter'>('parameter', textColumn), title: 'Parameter' },
  { ...keyColumn<Row, 'source'>('source', textColumn), title: 'On links of the source' },
  { ...keyColumn<Row, 'network'>('network', textColumn), title: 'on ads of the network' },
  { ...keyColumn<Row, 'paid'>('paid', checkboxColumn), title: 'only if paid', grow: 0.4 },
  { ...keyColumn<Row, 'kinds'>('kinds', textColumn), title: 'and of the kind (parted by ;)' },
  { ...keyColumn<Row, 'token'>('token', textColumn), title: 'Token that fills it' },
];

const blank = (): Row => ({ parameter: null, source: null, network: null, paid: false, kinds: null, token: null });
const isBlank = (row: Row) => Object.values(row).every((one) => !one);

/** Parameters that tell one click from every other. */
export function IdentifiersEditor({ document, change }: PartProps) {
  const rows = useMemo(() => (document.identifiers ?? []).map(asRow), [document.identifiers]);
  return (
    <Section title="Required identifiers">
      <p className={classes.said}>
        Without them a click cannot be joined to its cost. Leave source or kind empty where a parameter is for all. A
        token is written as its network writes it; its bare name will do.
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
  network: one.network ?? null,
  paid: one.paid ?? false,
  kinds: one.kinds?.join('; ') ?? null,
  token: one.token ?? null,
});

const asIdentifier = (row: Row): Identifier => ({
  ...lean({
    source: row.source ?? '',
    network: row.network ?? '',
    kinds: (row.kinds ?? '')
      .split(';')
      .map((one) => one.trim())
      .filter(Boolean),
    token: row.token ?? '',
  }),
  ...(row.paid ? { paid: true } : {}),
  parameter: (row.parameter ?? '').trim(),
});
