import { Button, Checkbox, Select, TextInput } from '@mantine/core';
import { useMemo, useState } from 'react';
import { checkboxColumn, keyColumn, textColumn } from 'react-datasheet-grid';
import { Section } from '../parts/Section';
import { Sheet } from '../parts/Sheet';
import classes from './Convention.module.css';
import { type Dialect, lean } from './document';
import type { PartProps } from './EditView';
import { useTrial } from './useTrial';

type Token = NonNullable<Dialect['tokens']>[number];

interface Row {
  token: string | null;
  meaning: string | null;
  sample: string | null;
  landing: string | null;
  condition: boolean;
  role: string | null;
  tells: string | null;
}

const COLUMNS = [
  { ...keyColumn<Row, 'token'>('token', textColumn), title: 'Token' },
  { ...keyColumn<Row, 'meaning'>('meaning', textColumn), title: 'What fills it', grow: 2 },
  { ...keyColumn<Row, 'sample'>('sample', textColumn), title: 'Sample' },
  { ...keyColumn<Row, 'landing'>('landing', textColumn), title: 'Landing (plain, encoded)' },
  { ...keyColumn<Row, 'condition'>('condition', checkboxColumn), title: 'Only if', grow: 0.4 },
  { ...keyColumn<Row, 'role'>('role', textColumn), title: 'Role on new links' },
  { ...keyColumn<Row, 'tells'>('tells', textColumn), title: 'Fact of the ad' },
];
const blank = (): Row => ({
  token: null,
  meaning: null,
  sample: null,
  landing: null,
  condition: false,
  role: null,
  tells: null,
});
const isBlank = (row: Row) => !row.token && !row.meaning && !row.sample;

/** How each network writes its tokens, which it offers, and a line to try a click pattern with. */
export function DialectsEditor({ document, change }: PartProps) {
  const dialects = document.dialects ?? [];
  const [chosen, setChosen] = useState(0);
  const at = Math.min(chosen, dialects.length - 1);
  const write = (changed: Dialect[]) => change({ ...document, dialects: changed });
  const add = () => {
    write([...dialects, { network: `Network ${dialects.length + 1}`, open: '{', close: '}', tokens: [] }]);
    setChosen(dialects.length);
  };
  const dialect = dialects[at];
  return (
    <Section title="Tokens of networks" aside={<Button onClick={add}>Add a network</Button>}>
      <p className={classes.said}>
        What a network or mail platform fills into its addresses: how its tokens are written, which there are, and a
        sample of each. Where the row of an ad tells its own account, campaign, group, ad, id or keyword, that is filled
        in instead.
      </p>
      {dialect && (
        <>
          <Select
            label="Network"
            w={240}
            allowDeselect={false}
            data={dialects.map((one, index) => ({ value: String(index), label: one.network }))}
            value={String(at)}
            onChange={(value) => setChosen(Number(value))}
          />
          <OneDialect
            key={at}
            document={document}
            dialect={dialect}
            write={(changed) => write(dialects.map((one, index) => (index === at ? changed : one)))}
            takeOut={() => write(dialects.toSpliced(at, 1))}
          />
        </>
      )}
    </Section>
  );
}

interface OneDialectProps {
  document: PartProps['document'];
  dialect: Dialect;
  write: (dialect: Dialect) => void;
  takeOut: () => void;
}

const SIGNS = [
  { key: 'network', label: 'Name' },
  { key: 'open', label: 'Opens with' },
  { key: 'close', label: 'Closes with' },
  { key: 'then', label: 'Parts a condition from its text' },
  { key: 'own', label: 'Own tokens begin with' },
] as const;

function OneDialect({ document, dialect, write, takeOut }: OneDialectProps) {
  const [pattern, setPattern] = useState('');
  const trial = useTrial({ document, network: dialect.network, pattern }).data;
  const rows = useMemo(() => (dialect.tokens ?? []).map(asRow), [dialect.tokens]);
  const put = (changes: Partial<Dialect>) => write(lean({ ...dialect, ...changes }));
  return (
    <>
      <div className={classes.fields}>
        {SIGNS.map(({ key, label }) => (
          <TextInput
            key={key}
            label={label}
            value={dialect[key] ?? ''}
            onChange={(event) => put({ [key]: event.currentTarget.value })}
          />
        ))}
        <Checkbox
          label="Percent-encoded tokens are filled too"
          checked={dialect.encoded ?? false}
          onChange={(event) => put({ encoded: event.currentTarget.checked })}
        />
        <Checkbox
          label="Letter case of names counts"
          checked={dialect.exact_names ?? true}
          onChange={(event) => put({ exact_names: event.currentTarget.checked })}
        />
        <Button variant="subtle" onClick={takeOut}>
          Take {dialect.network} out
        </Button>
      </div>
      <Sheet
        label={`Tokens of ${dialect.network}`}
        rows={rows}
        columns={COLUMNS}
        blank={blank}
        isBlank={isBlank}
        change={(changed) => write({ ...dialect, tokens: changed.map(asToken).filter((token) => token.token !== '') })}
        height={300}
      />
      <TextInput
        label="Try a click pattern"
        mt={10}
        value={pattern}
        onChange={(event) => setPattern(event.currentTarget.value)}
      />
      <p className={classes.said} role="status">
        {trial?.faults.length
          ? trial.faults.join(' ')
          : trial?.click &&
            [
              `Opens ${trial.click.address}`,
              trial.click.empty.length > 0 && `nothing fills ${trial.click.empty.join(', ')}`,
              trial.click.unknown.length > 0 && `not offered: ${trial.click.unknown.join(', ')}`,
              ...trial.click.warnings,
            ]
              .filter(Boolean)
              .join('; ')}
      </p>
    </>
  );
}

const asRow = (token: Token): Row => ({
  token: token.token,
  meaning: token.meaning ?? null,
  sample: token.sample ?? null,
  landing: token.landing ?? null,
  condition: token.condition ?? false,
  role: token.role ?? null,
  tells: token.tells ?? null,
});

function asToken(row: Row): Token {
  const { landing, condition, sample, ...rest } = row;
  const known = landing === 'plain' || landing === 'encoded' ? { landing } : {};
  const token = lean({ ...rest, ...known, ...(condition ? { condition } : {}) }) as Token;
  return { ...token, token: (row.token ?? '').trim(), ...(sample === null ? {} : { sample }) } as Token;
}
