import { describe, expect, it } from 'vitest';
import {
  BLANK,
  nearest,
  readField,
  readHar,
  readRequests,
  readSignatures,
  readStanding,
  writtenField,
  writtenStanding,
} from '../src/workspaces/signature';

describe('a field', () => {
  it.each([
    ['ev', 'ev'],
    ['ev, event', ['ev', 'event']],
    ['=SK-1', { constant: 'SK-1' }],
    ['/2', { segment: 2 }],
    ['data.items', 'data.items'],
  ])('%s is read and written the same', (text, field) => {
    expect(readField(text)).toEqual(field);
    expect(writtenField(readField(text))).toBe(text);
  });

  it.each(['', ' ', ','])('%j is none', (text) => {
    expect([readField(text)].flat().filter(Boolean)).toEqual([]);
  });
});

it.each([
  ['cdn.gull.example/gw.js?id', { host: 'cdn.gull.example', path: '/gw.js', account: 'id' }],
  ['cdn.gull.example', { host: 'cdn.gull.example' }],
  ["“gull('set', '*')”", { inline: "gull('set', '*')" }],
])('where a tag stands, %s, is read and written the same', (text, standing) => {
  expect(readStanding(text)).toEqual(standing);
  expect(writtenStanding(standing)).toBe(text);
});

it('reads pasted requests: an address with its body, or several addresses', () => {
  expect(readRequests('http://a.test/c?ev=x\n\nev=y\n\nz')).toEqual([{ address: 'http://a.test/c?ev=x', body: 'ev=y\n\nz' }]);
  expect(readRequests('POST http://a.test/1\nhttp://a.test/2')).toEqual([{ address: 'http://a.test/1' }, { address: 'http://a.test/2' }]);
  expect(readRequests('nothing')).toEqual([]);
});

it('takes signatures from a file, and nothing else', () => {
  const one = { ...BLANK, tag: 'gull', name: 'Gull', wire: [{ host: 'in.gull.example' }] };
  expect(readSignatures(JSON.stringify(one))).toEqual([one]);
  expect(readSignatures(JSON.stringify([one, one]))).toHaveLength(2);
  for (const text of ['{"a": 1}', '[null]', '7', '[{"wire": []}]', 'x']) {
    expect(() => readSignatures(text)).toThrow();
  }
});

it('reads a HAR file, those of the tag first', () => {
  const entry = (url: string) => ({ request: { url, postData: { text: 'ev=1', mimeType: 'text/plain' } } });
  const read = readHar(JSON.stringify({ log: { entries: [entry('http://b.test/'), entry('http://in.a.test/c'), entry('data:x'), {}] } }));
  expect(read.map((one) => one.address)).toEqual(['http://b.test/', 'http://in.a.test/c']);
  expect(nearest(read, { ...BLANK, wire: [{ host: '*.a.test' }] })[0]).toEqual({ address: 'http://in.a.test/c', body: 'ev=1', type: 'text/plain' });
  expect(readHar('{}')).toEqual([]);
});
