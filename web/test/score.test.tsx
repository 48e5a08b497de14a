import { fireEvent, render, screen } from '@testing-library/react';
import { describe, expect, it, vi } from 'vitest';
import { Score } from '../src/rehearsals/Score';

const run = {
  steps: [
    { number: 1, does: 'open /', from: 0, to: 900 },
    { number: 2, does: 'submit #enquiry', from: 900, to: 2400, error: 'Nothing fits' },
  ],
  notes: [
    { tag: 'gullwatch', step: 1, event: 'page_view', state: 'heard', at: 100 },
    { tag: 'gullwatch', step: 2, event: 'enquiry', state: 'absent', at: null },
  ],
} as never;

describe('the score of a rehearsal', () => {
  it('has a measure for each step, a stave for each tag that was expected or heard, and no other', () => {
    const choose = vi.fn();
    render(<Score run={run} tags={{ gullwatch: 'Gullwatch', silent: 'Silent' }} chosen={1} onChoose={choose} />);
    const measures = screen.getAllByRole('button');
    expect(measures.map((one) => [one.textContent, one.getAttribute('aria-pressed'), one.dataset.failed])).toEqual([
      ['1 open0.0 s', 'true', undefined],
      ['2 submit0.9 s', 'false', 'true'],
    ]);
    expect(screen.queryByText('Gullwatch')).not.toBeNull();
    expect(screen.getByTitle('enquiry: expected and never heard').textContent).toBe('enquiry absent');
    expect(screen.queryByText('Silent')).toBeNull();
    fireEvent.click(measures[1] as HTMLElement);
    expect(choose).toHaveBeenCalledWith(2);
  });
});
