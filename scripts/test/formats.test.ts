import { spawnSync } from 'node:child_process';
import { createHash } from 'node:crypto';
import { readFileSync } from 'node:fs';
import { chainStart, extendChain, recordHashOf } from '@ulvane/core/record';
import { describe, expect, it } from 'vitest';
import { published, schemaText } from '../formats';

describe('the published formats', () => {
  it.each(Object.entries(published))(
    '%s: the JSON Schema in docs is the one that the code parses with',
    (name, entry) => {
      expect(readFileSync(`docs/formats/${name}.schema.json`, 'utf8')).toBe(schemaText(entry));
    },
  );
});

describe('the recipe by which a log is checked without Ulvane', () => {
  const [, recipe = ''] = /```python\n([\s\S]*?)```/.exec(readFileSync('docs/formats.md', 'utf8')) ?? [];
  const sha256 = (text: string) => createHash('sha256').update(text, 'utf8').digest('hex');
  const id = '2f0a4d4e-6f4b-4a9d-8a55-0f6f1f0c9a11';
  const record = { b: [1, 2.5, null], a: { é: 'Zoë "quoted" \u2028 \n', c: true } };
  const { lines, head } = extendChain(
    { count: 0, hash: chainStart },
    id,
    ['Move started.', 'Owner Zoë, “due”\tsoon.', 'Signed: \u0001 "yes" \\ no.'].map((sentence, index) => ({
      at: `2026-03-02T10:0${index}:00.000Z`,
      by: 'Odd',
      kind: 'x',
      sentence,
      importedBy: index === 0 ? 'Maud' : null,
      recordHash: index === 2 ? recordHashOf(record, sha256) : null,
    })),
    sha256,
  );
  const check = (log: object) => {
    const { stdout, stderr } = spawnSync('python3', ['-c', recipe], {
      input: JSON.stringify(log),
      encoding: 'utf8',
    });
    return `${stdout}${stderr}`.trim();
  };
  const log = { id, lines, head, record };

  it('makes the same codes as Ulvane', () => {
    expect(check(log)).toBe('all 3 lines fit');
  });

  it('finds what does not fit', () => {
    const altered = lines.map((line) => (line.number === 2 ? { ...line, by: 'Ines' } : line));
    expect(check({ ...log, lines: altered })).toBe('line 2 does not fit');
    expect(check({ ...log, lines: lines.slice(0, 2) })).toBe('the end is missing');
    expect(check({ ...log, record: { ...record, b: [] } })).toBe(
      'the record is not the one that the last line left',
    );
  });
});
