import { describe, expect, it } from 'vitest';
import { lanes, stations } from '../src/links/lanes';

type Trail = Parameters<typeof lanes>[0];
const fate = (name: string, before: string | null, after: string | null, what: string, role: string | null = null) => ({
  name,
  before,
  after,
  fate: what,
  how: null,
  role,
});
const hop = (address: string, params: unknown[] = []) => ({ address, status: 301, ms: 1, how: 'status', params });
const trail = (facts: object) => ({ landing_params: [], ...facts }) as unknown as Trail;

describe('lanes of a trail', () => {
  it('stand at each hop, and at a last address that was not requested', () => {
    const landed = trail({ hops: [hop('a'), hop('b')], final_address: 'b' });
    const refused = trail({ hops: [hop('a')], final_address: 'z' });
    expect([landed, refused].map((one) => stations(one).map((station) => station.address))).toEqual([
      ['a', 'b'],
      ['a', 'z'],
    ]);
  });

  it('say the referrer where it is another than before, and where a page sent its visitors without one', () => {
    const sent = (how: string, referrer: string | null) => ({ ...hop('x'), how, referrer });
    const hops = [sent('status', null), sent('script', null), sent('status', 'p'), sent('script', 'p'), sent('meta', null)];
    const seen = stations(trail({ hops, final_address: 'x' })).map((one) => one.referrer);
    expect(seen).toEqual([undefined, undefined, 'p', undefined, null]);
  });

  it('run on over hops, put roles first, and part where a name stands twice', () => {
    const found = lanes(
      trail({
        hops: [
          hop('a', [fate('x', '1', '1', 'kept'), fate('src', 'n', null, 'dropped', 'source'), fate('x', '2', '2', 'kept')]),
          hop('b', [fate('x', '1', '1', 'kept')]),
          hop('c'),
        ],
        final_address: 'c',
      }),
    );
    expect(found.map((lane) => [lane.key, lane.role, lane.stretches.map((one) => one?.fate ?? null)])).toEqual([
      ['src 0', 'source', ['dropped', null]],
      ['x 0', null, ['kept', 'kept']],
      ['x 1', null, ['kept', null]],
    ]);
  });

  it('of one hop are the parameters of its page', () => {
    const found = lanes(
      trail({ hops: [hop('a')], final_address: 'a', landing_params: [{ name: 'src', value: 'n', role: 'source' }] }),
    );
    expect(found).toEqual([{ key: 'src 0', name: 'src', role: 'source', first: 'n', stretches: [] }]);
  });
});
