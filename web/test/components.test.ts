import { readdirSync, readFileSync } from 'node:fs';
import { join } from 'node:path';
import ts from 'typescript';
import { describe, expect, it } from 'vitest';

const MOST = 80;

/** Name and lines of every function that stands at the top of a file. */
function functionsOf(path: string): [string, number][] {
  const source = ts.createSourceFile(path, readFileSync(path, 'utf8'), ts.ScriptTarget.Latest, true, ts.ScriptKind.TSX);
  const lineOf = (at: number) => source.getLineAndCharacterOfPosition(at).line;
  return source.statements
    .filter(ts.isFunctionDeclaration)
    .map((one) => [`${path}: ${one.name?.text}`, lineOf(one.end) - lineOf(one.getStart()) + 1]);
}

describe('components', () => {
  it(`fit on a page: none is longer than ${MOST} lines`, () => {
    const files = readdirSync('src', { recursive: true, encoding: 'utf8' }).filter((file) => file.endsWith('.tsx'));
    const lengths = files.flatMap((file) => functionsOf(join('src', file)));
    expect(lengths.length).toBeGreaterThan(200);
    expect(lengths.filter(([, lines]) => lines > MOST)).toEqual([]);
  });
});
