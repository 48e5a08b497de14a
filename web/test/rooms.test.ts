import { expect, test } from 'vitest';

const files: Record<string, string> = import.meta.glob('../src/**/*.{ts,tsx}', { query: '?raw', import: 'default', eager: true });

/** What each file asks for of others, as paths below `src`. */
const asked = Object.entries(files).flatMap(([file, text]) =>
  [...text.matchAll(/(?:from|import)\s*\(?\s*'(\.[^']+)'/g)].map(([, to]) => ({
    file: file.replace('../src/', ''),
    to: new URL(to ?? '', new URL(file.replace('..', ''), 'http://rooms.test')).pathname.replace('/src/', ''),
  })),
);
const room = (path: string) => (path.includes('/') ? path.split('/')[0] : undefined);

test('no room of the screens asks for one that asks for it, over whatever others', () => {
  const next = new Map<string, Set<string>>();
  for (const { file, to } of asked) {
    const [from, into] = [room(file), room(to)];
    if (from && into && from !== into) {
      next.set(from, (next.get(from) ?? new Set()).add(into));
    }
  }
  const reached = (from: string) => {
    const found = new Set<string>();
    const walk = (at: string) => {
      for (const one of next.get(at) ?? []) {
        if (!found.has(one)) {
          found.add(one);
          walk(one);
        }
      }
    };
    walk(from);
    return found;
  };
  expect(next.size).toBeGreaterThan(10);
  expect([...next.keys()].filter((one) => reached(one).has(one))).toEqual([]);
});
