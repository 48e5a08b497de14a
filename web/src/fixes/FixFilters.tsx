import { Select, TextInput } from '@mantine/core';
import { useDebouncedCallback, useHotkeys } from '@mantine/hooks';
import { useRef, useState } from 'react';
import type { Schema } from '../api/client';
import { FACETS, type Facet } from './filters';

interface FixFiltersProps {
  /** All there are, for what can be chosen. */
  fixes: Schema['Fix'][];
  list: Record<string, string>;
  set: (changes: Record<string, string | null>) => void;
}

/** Narrows the fixes, and says by what they are grouped; all of it stands in the address bar. */
export function FixFilters({ fixes, list, set }: FixFiltersProps) {
  const [text, setText] = useState(list.q ?? '');
  const search = useDebouncedCallback((q: string) => set({ q, chosen: null }), 200);
  const field = useRef<HTMLInputElement>(null);
  useHotkeys([['/', () => field.current?.focus()]]);
  return (
    <>
      <TextInput
        ref={field}
        aria-label="Search fixes"
        placeholder="Search ( / )"
        w={130}
        value={text}
        onChange={(event) => {
          setText(event.currentTarget.value);
          search(event.currentTarget.value);
        }}
        onKeyDown={(event) => event.key === 'Escape' && event.currentTarget.blur()}
      />
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
