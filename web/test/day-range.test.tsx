import { MantineProvider } from '@mantine/core';
import { cleanup, fireEvent, render, screen } from '@testing-library/react';
import { useState } from 'react';
import { afterEach, beforeAll, describe, expect, it, vi } from 'vitest';
import { DayRange } from '../src/traffic/DayRange';

/** As the address bar keeps them; told: what it was told, in turn. */
function Kept({ from, to, told }: { from: string; to: string; told: [string, string][] }) {
  const [days, setDays] = useState<[string, string]>([from, to]);
  return (
    <DayRange
      from={days[0]}
      to={days[1]}
      labels={['From', 'To']}
      change={(...now) => {
        told.push(now);
        setDays(now);
      }}
    />
  );
}

function begin(from: string, to: string) {
  const told: [string, string][] = [];
  render(
    <MantineProvider>
      <Kept from={from} to={to} told={told} />
    </MantineProvider>,
  );
  const field = (name: string) => screen.getByLabelText<HTMLInputElement>(name);
  const type = (name: string, value: string) => fireEvent.change(field(name), { target: { value } });
  return { told, type, shown: () => [field('From').value, field('To').value] };
}

describe('two days', () => {
  beforeAll(() => {
    window.matchMedia ??= vi.fn().mockReturnValue({ matches: false, addEventListener: () => {}, removeEventListener: () => {} });
  });
  afterEach(cleanup);

  it('are not told while a year is being typed', () => {
    const { told, type, shown } = begin('2026-11-16', '');
    for (const year of ['0002', '0020', '0202']) {
      type('To', `${year}-11-22`);
      expect(shown()).toEqual(['2026-11-16', `${year}-11-22`]);
    }
    expect(told).toEqual([]);
    type('To', '2026-11-22');
    expect(told).toEqual([['2026-11-16', '2026-11-22']]);
  });

  it.each([
    ['From', '2026-12-01', ['2026-12-01', '']],
    ['To', '2026-11-01', ['', '2026-11-01']],
    ['From', '', ['', '2026-11-22']],
    ['To', '2026-11-16', ['2026-11-16', '2026-11-16']],
  ] as const)('give way where %s becomes %s', (name, value, left) => {
    const { told, type, shown } = begin('2026-11-16', '2026-11-22');
    type(name, value);
    expect([told.at(-1), shown()]).toEqual([left, left]);
  });
});
