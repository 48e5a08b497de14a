import { Group, NativeSelect } from '@mantine/core';
import { useListState } from '../shell/useListState';
import { DayRange } from './DayRange';

const WAYS = { none: 'beside no other days', before: 'beside the days before', chosen: 'beside chosen days' };

/** What is asked for: before days without an end or a beginning there is nothing. */
export const compared = ({ compare, from, to }: Record<string, string>) =>
  compare === 'before' && !(from && to) ? undefined : compare;

/** Which days stand beside those of the period: as many before it, or any that are chosen. */
export function Beside() {
  const { list, set } = useListState();
  const { compare = '', from = '', to = '' } = list;
  const chosen = compare.includes('..');
  const [first = '', last = ''] = chosen ? compare.split('..') : [];
  const days = (one: string, other: string) => set({ compare: `${one}..${other}` });
  return (
    <Group gap={6} wrap="nowrap">
      <NativeSelect
        size="xs"
        aria-label="Days beside"
        value={chosen ? 'chosen' : compare || 'none'}
        onChange={(event) => {
          const way = event.currentTarget.value;
          way === 'chosen' ? days(from, to) : set({ compare: way === 'none' ? null : way });
        }}
        data={Object.entries(WAYS).map(([value, label]) => ({
          value,
          label,
          disabled: value === 'before' && !(from && to),
        }))}
      />
      {chosen && <DayRange from={first} to={last} labels={['Beside, from', 'Beside, to']} change={days} />}
    </Group>
  );
}
