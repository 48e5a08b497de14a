import { Button, Checkbox, FileButton, Group } from '@mantine/core';
import { useMemo } from 'react';
import { keyColumn, textColumn } from 'react-datasheet-grid';
import { acts } from '../api/acts';
import { useAct } from '../api/useAct';
import { counted } from '../parts/format';
import { Section } from '../parts/Section';
import { Sheet } from '../parts/Sheet';
import { useWorkspace } from '../session/useWorkspace';
import classes from './Convention.module.css';
import { lean, type Value, type Vocabulary } from './document';
import { ProposedValues } from './ProposedValues';

interface Row {
  value: string | null;
  aliases: string | null;
  meaning: string | null;
  owner: string | null;
}

const COLUMNS = [
  { ...keyColumn<Row, 'value'>('value', textColumn), title: 'Value', minWidth: 140 },
  { ...keyColumn<Row, 'aliases'>('aliases', textColumn), title: 'Also written (parted by ;)', minWidth: 160 },
  { ...keyColumn<Row, 'meaning'>('meaning', textColumn), title: 'What it means', minWidth: 160 },
  { ...keyColumn<Row, 'owner'>('owner', textColumn), title: 'Owner', minWidth: 100 },
];

const blank = (): Row => ({ value: null, aliases: null, meaning: null, owner: null });
const isBlank = (row: Row) => Object.values(row).every((text) => !text);

interface VocabularyGridProps {
  role: string;
  vocabulary: Vocabulary;
  change: (vocabulary: Vocabulary) => void;
}

/** The permitted values of a role, in the sheet that a team knows: typed, pasted, or read from a file. */
export function VocabularyGrid({ role, vocabulary, change }: VocabularyGridProps) {
  const { name } = useWorkspace();
  const rows = useMemo(() => vocabulary.values.map(asRow), [vocabulary.values]);
  const read = useAct(name, async (file: File) => acts.readTable(name, 'values', await file.text()));
  const take = async (file: File | null) => {
    if (file) {
      const { values = [] } = await read.mutateAsync(file);
      const fresh = values.map((value) => value.value);
      change({
        ...vocabulary,
        values: [
          ...vocabulary.values.filter((value) => !fresh.includes(value.value)),
          ...values.map((one) => lean(one)),
        ],
      });
    }
  };
  return (
    <Section title="Vocabulary" aside={counted(vocabulary.values.length, 'value')}>
      <Group gap={10} mb={6}>
        <Checkbox
          label="Closed: no other value is right"
          checked={vocabulary.closed ?? false}
          onChange={(event) => change({ ...vocabulary, closed: event.currentTarget.checked })}
        />
        <FileButton onChange={take} accept=".csv,.tsv,.txt">
          {(props) => <Button {...props}>Take values from a CSV file</Button>}
        </FileButton>
      </Group>
      <ProposedValues
        role={role}
        take={(value) => change({ ...vocabulary, values: [...vocabulary.values, { value }] })}
      />
      <div className={classes.wide}>
        <Sheet
          label={`Vocabulary of ${role}`}
          rows={rows}
          columns={COLUMNS}
          blank={blank}
          isBlank={isBlank}
          change={(changed) =>
            change({ ...vocabulary, values: changed.map(asValue).filter((one) => one.value !== '') })
          }
          height={Math.min(430, 40 + (rows.length + 5) * 26)}
        />
      </div>
    </Section>
  );
}

const asRow = (value: Value): Row => ({
  value: value.value,
  aliases: value.aliases?.join('; ') ?? null,
  meaning: value.meaning ?? null,
  owner: value.owner ?? null,
});

const asValue = (row: Row): Value => ({
  ...lean({
    aliases: (row.aliases ?? '')
      .split(';')
      .map((one) => one.trim())
      .filter(Boolean),
    meaning: row.meaning ?? '',
    owner: row.owner ?? '',
  }),
  value: (row.value ?? '').trim(),
});
