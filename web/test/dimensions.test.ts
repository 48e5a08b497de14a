import { expect, it } from 'vitest';
import { daysOf, partsOf, together, whatHolds } from '../src/traffic/dimensions';

// The days of ISO 8601's weeks, checked against GNU date.
it.each([
  ['2026-11-22', '2026-11-22', '2026-11-22'],
  ['2026-W47', '2026-11-16', '2026-11-22'],
  ['2026-W01', '2025-12-29', '2026-01-04'],
  ['2020-W53', '2020-12-28', '2021-01-03'],
  ['2027-W01', '2027-01-04', '2027-01-10'],
  ['2024-W01', '2024-01-01', '2024-01-07'],
  ['2028-02', '2028-02-01', '2028-02-29'],
  ['2026-12', '2026-12-01', '2026-12-31'],
])('%s begins on %s and ends on %s', (stretch, from, to) => {
  expect(daysOf(stretch)).toEqual({ from, to });
});

it.each([
  ['source', 'tidepost', { source: 'tidepost' }],
  ['cause', '', { cause: '–' }],
  ['week', '2026-W47', { from: '2026-11-16', to: '2026-11-22' }],
  ['own.market', 'north', { own: 'market=north' }],
  ['campaign.year', '', { segment: 'campaign.year=–' }],
])('rows of a value of %s are those of a filter', (dimension, value, filter) => {
  expect(whatHolds(dimension, value)).toEqual(filter);
});

it('puts filters together, days by those that they share, and says of none that cannot be', () => {
  const period = { from: '2026-11-18', to: '2026-12-31' };
  expect(together(period, daysOf('2026-W47'), { source: 'x' })).toEqual({
    from: '2026-11-18',
    to: '2026-11-22',
    source: 'x',
  });
  expect(together({ from: '2026-11-18' }, daysOf('2026-11'))).toEqual({ from: '2026-11-18', to: '2026-11-30' });
  expect(together({ source: 'x' }, { source: 'x' })).toEqual({ source: 'x' });
  expect(together({ own: 'a=1' }, { own: 'b=2' })).toEqual({ own: 'a=1\nb=2' });
  expect(together({ own: 'a=1\nb=2' }, { own: 'b=2' }, { own: 'c=a=3' })).toEqual({ own: 'a=1\nb=2\nc=a=3' });
  expect(together({ own: 'a=1\nb=2' }, { own: 'b=3' })).toBeUndefined();
  expect(together({ segment: 'campaign.year=2026' }, { segment: 'campaign.market=n' })).toEqual({
    segment: 'campaign.year=2026\ncampaign.market=n',
  });
  expect(together({ source: 'x' }, { source: 'y' })).toBeUndefined();
});

it.each([
  ['source', 'a=b', 'source', 'a=b'],
  ['landing', '/walks', 'landing page', '/walks'],
  ['own', 'market=north=1', 'market', 'north=1'],
  ['own', 'market', 'own', 'market'],
  ['segment', 'campaign.year=2026', 'campaign: year', '2026'],
  ['segment', 'meant.medium=–', 'medium, spellings together', '–'],
])('%s, asked for as %s, is told as %s: %s', (name, one, of, value) => {
  expect(partsOf(name, one)).toEqual({ of, value });
});
