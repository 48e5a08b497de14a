import { describe, expect, it } from 'vitest';
import { blankRow, type GridRow, isBlank, keyOf, toBuild, toGrid } from '../src/build/rows';
import { lean } from '../src/convention/document';
import { atMoment, count, money, onDay, percent, showIn } from '../src/parts/format';
import { only, whatHolds } from '../src/traffic/dimensions';
import { hostMapOf, linesOf } from '../src/workspaces/hostMap';

describe('a host map', () => {
  it.each([
    ['a.test 127.0.0.1:80', { 'a.test': '127.0.0.1:80' }],
    ['  a.test\t127.0.0.1:80  ', { 'a.test': '127.0.0.1:80' }],
    ['a.test', { 'a.test': null }],
    ['a.test -', { 'a.test': null }],
    ['*.test 127.0.0.1:1\n\n \nb.test -\r\n', { '*.test': '127.0.0.1:1', 'b.test': null }],
    ['a.test 127.0.0.1:1 and more', { 'a.test': '127.0.0.1:1' }],
    ['a.test 127.0.0.1:1\na.test 127.0.0.1:2', { 'a.test': '127.0.0.1:2' }],
    ['__proto__ 127.0.0.1:1', JSON.parse('{"__proto__": "127.0.0.1:1"}')],
    ['', {}],
  ])('is read from %j', (text, expected) => {
    expect(hostMapOf(text)).toEqual(expected);
    expect(hostMapOf(linesOf(hostMapOf(text)))).toEqual(expected);
  });
});

describe('a row of the sheet', () => {
  it.each<[GridRow, object]>([
    [{}, { landing: '', kind: '', network: null, exception: '', values: {} }],
    [
      { landing: 'http://a.test/', kind: 'ad', network: 'tidepost', source: 'tidepost', medium: '' },
      { landing: 'http://a.test/', kind: 'ad', network: 'tidepost', exception: '', values: { source: 'tidepost' } },
    ],
    [
      { campaign: 'june', content: null, exception: 'only once' },
      { landing: '', kind: '', network: null, exception: 'only once', values: { campaign: 'june' } },
    ],
  ])('goes to the server and comes back: %j', (row, expected) => {
    expect(toBuild(row)).toEqual(expected);
    expect(toBuild(toGrid(toBuild(row)))).toEqual(expected);
    expect(keyOf(toGrid(toBuild(row)))).toBe(keyOf(row));
  });

  it('is blank where nothing was typed, whatever was filled in for it', () => {
    const blank: GridRow[] = [blankRow(), { kind: 'ad', network: 'tidepost' }, { source: '' }, { source: null }];
    const typed: GridRow[] = [{ source: 'x' }, { landing: '/' }, { kind: 'ad', exception: 'why' }];
    expect(blank.map(isBlank)).toEqual(
      [true, true, true, true],
    );
    expect(typed.map(isBlank)).toEqual([
      false,
      false,
      false,
    ]);
  });
});

describe('what says nothing', () => {
  it('is left out of rules, and what is false or nought is not', () => {
    expect(lean({ a: '', b: null, c: undefined, d: [], e: false, f: 0, g: {}, h: ['x'], i: ' ' })).toEqual({
      e: false,
      f: 0,
      g: {},
      h: ['x'],
      i: ' ',
    });
  });

  it('is left out of filters', () => {
    expect(only({ from: '2026-11-01', to: '', q: undefined, more: 'x' }, ['from', 'to', 'q', 'none'])).toEqual({
      from: '2026-11-01',
    });
    expect([whatHolds('source', 'a=b'), whatHolds('own.event', 'sale')]).toEqual([
      { source: 'a=b' },
      { own: 'event=sale' },
    ]);
  });
});

describe('figures', () => {
  it.each([
    [count(1234567), '1,234,567'],
    [money(4800, 'EUR'), '€48'],
    [money(4850, 'EUR'), '€48.50'],
    [money(-5, 'EUR'), '-€0.05'],
    [money(123456700, 'GBP'), '£1,234,567'],
    [percent(0), '0.0 %'],
    [percent(0.0123), '1.2 %'],
    [percent(0.1), '10 %'],
    [percent(1), '100 %'],
    [onDay(null), '–'],
    [onDay('2026-11-02'), '2 Nov 2026'],
    [atMoment(undefined), 'never'],
  ])('are written: %j', (written, expected) => expect(written).toBe(expected));

  it('of time are those of the zone that was chosen', () => {
    showIn('UTC');
    expect(atMoment('2026-11-02T23:30:00Z')).toBe('2 Nov, 23:30');
    showIn('Pacific/Auckland');
    expect(atMoment('2026-11-02T23:30:00Z')).toBe('3 Nov, 12:30');
    showIn('');
  });
});
