import { describe, expect, it } from 'vitest';
import { endsAt } from '../src/traffic/endsAt';

describe('where most visits end', () => {
  it.each([
    [[427, 231, 105, 63], 0],
    [[28, 28, 0, 0], 1],
    [[14, 14, 14, 0], 2],
    [[5, 4, 3, 2], 0],
    [[9, 9, 9, 9], 3],
    [[0, 0], 1],
    // More come to a later step than to one before it where they land there.
    [[4, 2, 3, 0], 2],
  ])('of %j is step %i', (came, step) => {
    expect(endsAt(came)).toBe(step);
  });
});
