import { Autocomplete, Group, Select, TextInput } from '@mantine/core';
import { useQuery } from '@tanstack/react-query';
import { queries } from '../api/queries';
import { linkKindValues } from '../api/schema';
import { useWorkspace } from '../session/useWorkspace';
import type { Beside } from './sources';

export type SaidValues = Partial<Record<Exclude<Beside, 'dates'>, string>> & { dates?: 'day-first' | 'month-first' };

const LABELS: Record<Beside, [label: string, hint: string]> = {
  source: ['Name of this source', 'The next file of this name is compared with this one'],
  network: ['Network', 'Whose placeholders the click patterns hold'],
  host: ['Host', 'Of paths that name none'],
  place: ['Where it stands', 'For rows that do not say'],
  owner: ['Who can change it', 'For rows that do not say'],
  link_kind: ['Kind of link', ''],
  dates: ['Dates like 02/11/2026', 'Which number is the month, where the file does not tell'],
};

interface SaidProps {
  asks: Beside[];
  values: SaidValues;
  onChange: (values: SaidValues) => void;
}

/** What a person says beside a file. */
export function Said({ asks, values, onChange }: SaidProps) {
  const { name } = useWorkspace();
  const imports = useQuery(queries.imports(name));
  if (asks.length === 0) {
    return null;
  }
  const suggestions: Partial<Record<Beside, string[]>> = {
    network: imports.data?.dialects ?? [],
    host: imports.data?.relay_hosts ?? [],
    source: [...new Set(imports.data?.imports.map((one) => one.source).filter(Boolean))],
  };
  const set = (field: Beside, value: string | null) => onChange({ ...values, [field]: value ?? '' } as SaidValues);
  return (
    <Group gap={10} mb={10} align="end">
      {asks.map((field) => {
        const [label, hint] = LABELS[field];
        const common = { label, title: hint, w: 190, value: values[field] ?? '' };
        if (field === 'link_kind') {
          return (
            <Select
              key={field}
              {...common}
              data={[...linkKindValues]}
              placeholder="other"
              onChange={(value) => set(field, value)}
            />
          );
        }
        if (field === 'dates') {
          return (
            <Select
              key={field}
              {...common}
              data={[
                { value: 'day-first', label: 'the day stands first' },
                { value: 'month-first', label: 'the month stands first' },
              ]}
              placeholder="as the file tells"
              clearable
              onChange={(value) => set(field, value)}
            />
          );
        }
        const data = suggestions[field];
        return data ? (
          <Autocomplete key={field} {...common} data={data} onChange={(value) => set(field, value)} />
        ) : (
          <TextInput key={field} {...common} onChange={(event) => set(field, event.currentTarget.value)} />
        );
      })}
    </Group>
  );
}
