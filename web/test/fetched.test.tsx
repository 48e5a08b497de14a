import { MantineProvider } from '@mantine/core';
import { render, screen } from '@testing-library/react';
import { lazy } from 'react';
import { afterEach, beforeAll, describe, expect, it, vi } from 'vitest';
import { Fetched } from '../src/parts/Fetched';

const Absent = lazy(() => Promise.reject(new Error('Failed to fetch dynamically imported module')));
const at = (where: string) => (
  <MantineProvider>
    <Fetched at={where}>{where === 'absent' ? <Absent /> : <p>here</p>}</Fetched>
  </MantineProvider>
);

describe('a part that is fetched', () => {
  beforeAll(() => {
    window.matchMedia ??= vi.fn().mockReturnValue({ matches: false, addEventListener: () => {}, removeEventListener: () => {} });
    vi.spyOn(console, 'error').mockImplementation(() => {});
  });
  afterEach(() => vi.clearAllMocks());

  it('says where it does not come, and is tried again elsewhere', async () => {
    const { rerender } = render(at('absent'));
    expect((await screen.findByRole('alert')).textContent).toMatch(/could not be shown.*dynamically imported module/);
    expect(screen.getByRole('button').textContent).toBe('Load the page again');
    rerender(at('there'));
    expect(screen.queryByRole('alert')).toBeNull();
    expect(screen.getByText('here').textContent).toBe('here');
  });
});
