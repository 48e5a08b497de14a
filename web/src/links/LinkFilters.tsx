import { Button, NativeSelect } from '@mantine/core';
import { useQuery } from '@tanstack/react-query';
import { queries } from '../api/queries';
import { count, counted } from '../parts/format';
import { SearchField } from '../parts/SearchField';
import { Toolbar } from '../parts/Toolbar';
import { May } from '../session/May';
import { useWorkspace } from '../session/useWorkspace';
import { BulkActs } from './BulkActs';

interface LinkFiltersProps {
  list: Record<string, string>;
  set: (changes: Record<string, string | null>) => void;
  /** How many links fit. */
  total: number | undefined;
}

type Facet = 'kind' | 'owner' | 'outcome' | 'code' | 'label' | 'status';

/** Narrows the inventory; every filter stands in the address bar. */
export function LinkFilters({ list, set, total }: LinkFiltersProps) {
  const { name, waived } = useWorkspace();
  const facets = useQuery(queries.facets(name));

  const choice = (facet: Facet, placeholder: string, w: number) => (
    <NativeSelect
      aria-label={placeholder}
      w={w}
      value={list[facet] ?? ''}
      onChange={(event) => set({ [facet]: event.currentTarget.value || null, chosen: null })}
    >
      <option value="">{list[facet] ? `${placeholder}: all` : placeholder}</option>
      {Object.entries(facets.data?.[facet] ?? {}).map(([value, links]) =>
        value ? (
          <option key={value} value={value}>
            {value.replace('_', ' ')} ({count(links)})
          </option>
        ) : null,
      )}
    </NativeSelect>
  );

  return (
    <Toolbar>
      <SearchField label="Search addresses and places" value={list.q ?? ''} search={(q) => set({ q, chosen: null })} />
      {choice('code', 'Finding', 176)}
      {choice('kind', 'Kind', 118)}
      {choice('owner', 'Owner', 142)}
      {choice('outcome', 'Outcome', 124)}
      {Object.keys(facets.data?.label ?? {}).length > 0 && choice('label', 'Label', 100)}
      {facets.data?.status.paused && choice('status', 'Paused', 100)}
      {list.group && <Button onClick={() => set({ group: null })}>Of one finding only ×</Button>}
      {list.waived ? (
        <Button onClick={() => set({ waived: null })}>Waived ones only ×</Button>
      ) : (
        waived > 0 && (
          <Button variant="subtle" onClick={() => set({ waived: '1', chosen: null })}>
            {count(waived)} waived
          </Button>
        )
      )}
      {list.fix && <Button onClick={() => set({ fix: null })}>Of one fix only ×</Button>}
      {list.shown === 'excluded' ? (
        <Button onClick={() => set({ shown: null })}>Excluded ones only ×</Button>
      ) : (
        (facets.data?.excluded ?? 0) > 0 && (
          <Button variant="subtle" onClick={() => set({ shown: 'excluded', chosen: null })}>
            {count(facets.data?.excluded ?? 0)} excluded
          </Button>
        )
      )}
      <Toolbar.Rest>
        <span>{total === undefined ? '' : counted(total, 'link')}</span>
        <May least="editor">
          <BulkActs list={list} total={total ?? 0} />
        </May>
        <Button component="a" href={`/api/workspaces/${name}/links.csv?${new URLSearchParams(list)}`}>
          CSV
        </Button>
      </Toolbar.Rest>
    </Toolbar>
  );
}
