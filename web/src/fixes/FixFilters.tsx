import { Select } from '@mantine/core';
import type { Schema } from '../api/client';
import { SearchField } from '../parts/SearchField';
import { FACETS, type Facet } from './filters';

interface FixFiltersProps {
  /** All there are, for what can be chosen. */
  fixes: Schema['Fix'][];
  list: Record<string, string>;
  set: (changes: Record<string, string | null>) => void;
}

/** Narrows the fixes, and says by what they are grouped; all of it stands in the address bar. */
export function FixFilters({ fixes, list, set }: FixFiltersProps) {
  return (
    <>
      <SearchField label="Search fixes" value={list.q ?? ''} search={(q) => set({ q, chosen: null })} />
      {(Object.keys(FACETS) as Facet[]).map((facet) => (
        <Select
          key={facet}
          aria-label={FACETS[facet]}
          placeholder={FACETS[facet]}
          clearable
          searchable
          w={facet === 'weight' ? 90 : 124}
          data={[...new Set(fixes.map((fix) => fix[facet]))].filter((value) => value !== '').sort()}
          value={list[facet] ?? null}
          onChange={(value) => set({ [facet]: value, chosen: null })}
        />
      ))}
      <Select
        aria-label="Sums by"
        placeholder="Sums by"
        clearable
        w={140}
        data={Object.entries(FACETS).map(([value, label]) => ({ value, label: `by ${label.toLowerCase()}` }))}
        value={list.by ?? null}
        onChange={(by) => set({ by })}
      />
    </>
  );
}
