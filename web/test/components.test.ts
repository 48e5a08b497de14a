import { readdirSync, readFileSync } from 'node:fs';
import { join } from 'node:path';
import ts from 'typescript';
import { describe, expect, it } from 'vitest';

const MOST = 80;

/** Where each statement of a file's top begins, and its lines: functions, and whatever holds one. */
function statementsOf(path: string): [string, number][] {
  const source = ts.createSourceFile(path, readFileSync(path, 'utf8'), ts.ScriptTarget.Latest, true, ts.ScriptKind.TSX);
  const lineOf = (at: number) => source.getLineAndCharacterOfPosition(at).line + 1;
  return source.statements.map((one) => {
    const first = lineOf(one.getStart());
    return [`${path}:${first}`, lineOf(one.end) - first + 1];
  });
}

describe('components', () => {
  it(`fit on a page: none is longer than ${MOST} lines`, () => {
    const files = readdirSync('src', { recursive: true, encoding: 'utf8' }).filter((file) => file.endsWith('.tsx'));
    const lengths = files.flatMap((file) => statementsOf(join('src', file)));
    expect(lengths.length).toBeGreaterThan(1_000);
    expect(lengths.filter(([, lines]) => lines > MOST)).toEqual([]);
  });
});
