import { TextInput } from '@mantine/core';
import { useEffect, useState } from 'react';

/** While a year is typed it passes for years long ago. */
const FIRST_YEAR = '1900';

interface DayRangeProps {
  from: string | undefined;
  to: string | undefined;
  /** Names the two fields for those who hear them. */
  labels: [string, string];
  /** Called with both ends, "" for an open one. */
  change: (from: string, to: string) => void;
}

/** Two days between which others lie. Where one is put beyond the other, the other gives way. */
export function DayRange({ from = '', to = '', labels, change }: DayRangeProps) {
  return (
    <>
      <DayField label={labels[0]} day={from} change={(first) => change(first, to && first > to ? '' : to)} />
      <span>to</span>
      <DayField label={labels[1]} day={to} change={(last) => change(last && from > last ? '' : from, last)} />
    </>
  );
}

/** A day that is told once it has been typed to its end. */
function DayField({ label, day, change }: { label: string; day: string; change: (day: string) => void }) {
  const [typed, setTyped] = useState(day);
  useEffect(() => setTyped(day), [day]);
  return (
    <TextInput
      type="date"
      size="xs"
      aria-label={label}
      value={typed}
      onChange={(event) => {
        const now = event.currentTarget.value;
        setTyped(now);
        if (now === '' || now >= FIRST_YEAR) {
          change(now);
        }
      }}
    />
  );
}
