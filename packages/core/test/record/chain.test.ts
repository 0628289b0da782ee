import { createHash } from 'node:crypto';
import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import {
  chainStart,
  chainText,
  checkChain,
  extendChain,
  foldLog,
  recordHashOf,
  type ChainContent,
  type ChainLine,
} from '../../src/record';

const sha256 = (text: string) => createHash('sha256').update(text, 'utf8').digest('hex');
const owner = '2f0a4d4e-6f4b-4a9d-8a55-0f6f1f0c9a11';
const start = { count: 0, hash: chainStart };

const kinds = ['fact-typed', 'copy-verified', 'gate-overruled', 'step-signed', 'move-started', 'prepared'];
const content = fc.record({
  minute: fc.integer({ min: 0, max: 5 }),
  by: fc.constantFrom('Odd', 'Ines'),
  kind: fc.constantFrom(...kinds),
  sentence: fc.string(),
  importedBy: fc.constantFrom(null, null, null, 'Maud'),
});
/** Lines as a house writes them: the clock goes on. */
const contents = fc.array(content, { minLength: 1, maxLength: 20 }).map((made): ChainContent[] => {
  let minute = 0;
  return made.map(({ minute: more, ...line }) => ({
    ...line,
    at: new Date(Date.UTC(2026, 2, 2, 9, (minute += more))).toISOString(),
    recordHash: null,
  }));
});

describe('a code', () => {
  it('is SHA-256 of what the line says, as another tool makes it', () => {
    const line = {
      previous: chainStart,
      number: 1,
      at: '2026-03-02T10:00:00Z',
      by: 'Odd',
      kind: 'move-started',
      sentence: 'Move started.',
      importedBy: null,
      recordHash: null,
    };
    const text = `["${'0'.repeat(64)}","${owner}",1,"2026-03-02T10:00:00.000Z","Odd","move-started","Move started.",null,null]`;
    expect(chainText(owner, line)).toBe(text);
    // printf %s '…' | sha256sum
    expect(extendChain(start, owner, [line], sha256).head.hash).toBe(sha256(text));
  });

  it('of a record does not hang on the order of its fields (RFC 8785)', () => {
    expect(recordHashOf({ b: [1, { d: 2, c: 'é' }], a: null }, sha256)).toBe(
      sha256('{"a":null,"b":[1,{"c":"é","d":2}]}'),
    );
  });
});

describe('a chain with a gap', () => {
  it('misses the line after the last one that is there, whatever the codes say', () => {
    const line = (sentence: string): ChainContent => ({
      at: '2026-03-02T10:00:00.000Z',
      by: 'Odd',
      kind: 'prepared',
      sentence,
      importedBy: null,
      recordHash: null,
    });
    const { lines, head } = extendChain(start, owner, [line('one'), line('two'), line('three')], sha256);
    const { fault } = checkChain(
      owner,
      [lines[0], lines[2]].flatMap((one) => one ?? []),
      head,
      null,
      sha256,
    );
    expect(fault).toMatchObject({
      number: 2,
      kind: 'missing',
      sentence: 'Line 2 is missing: line 3 follows line 1.',
    });
  });
});

describe('a chain', () => {
  it('fits as it was written, in one go or in several', () => {
    fc.assert(
      fc.property(contents, fc.nat(), (made, cut) => {
        const at = cut % (made.length + 1);
        const whole = extendChain(start, owner, made, sha256);
        const first = extendChain(start, owner, made.slice(0, at), sha256);
        const rest = extendChain(first.head, owner, made.slice(at), sha256);
        expect([...first.lines, ...rest.lines]).toEqual(whole.lines);
        expect(rest.head).toEqual(whole.head);
        expect(checkChain(owner, whole.lines, whole.head, null, sha256).fault).toBeNull();
      }),
    );
  });

  it('names the first line that does not fit, whatever is done to it behind its back', () => {
    const done = new Map<string, number>();
    const count = (what: string) => done.set(what, (done.get(what) ?? 0) + 1);
    fc.assert(
      fc.property(
        contents,
        fc.nat(),
        fc.constantFrom('change', 'remove', 'insert', 'swap', 'rewrite'),
        (made, pick, what) => {
          const { lines, head } = extendChain(start, owner, made, sha256);
          const index = pick % lines.length;
          const line = lines[index];
          if (!line) return;
          const altered: ChainLine[] = [...lines];
          if (what === 'change') altered[index] = { ...line, sentence: `${line.sentence}!` };
          if (what === 'remove') altered.splice(index, 1);
          if (what === 'insert') altered.splice(index, 0, { ...line, sentence: `${line.sentence}?` });
          if (what === 'swap') {
            const other = lines[index + 1];
            if (!other) return;
            altered[index] = { ...other, number: line.number };
            altered[index + 1] = { ...line, number: other.number };
          }
          if (what === 'rewrite') {
            // As somebody who knows how codes are made: the line's own code fits, the next one's does not.
            const text = { ...line, sentence: `${line.sentence}!` };
            altered[index] = { ...text, hash: sha256(chainText(owner, text)) };
          }
          count(what);
          const { fault } = checkChain(owner, altered, head, null, sha256);
          expect(fault).not.toBeNull();
          // Nothing before the altered line is blamed.
          expect(fault?.number).toBeGreaterThanOrEqual(line.number);
          expect(fault?.number).toBeLessThanOrEqual(line.number + 1);
        },
      ),
      { numRuns: 500 },
    );
    for (const what of ['change', 'remove', 'insert', 'swap', 'rewrite'])
      expect(done.get(what), what).toBeGreaterThan(30);
  });

  it('knows how many lines were written: one too few or too many is named', () => {
    const line = (sentence: string): ChainContent => ({
      at: '2026-03-02T10:00:00.000Z',
      by: 'Odd',
      kind: 'prepared',
      sentence,
      importedBy: null,
      recordHash: null,
    });
    const two = extendChain(start, owner, [line('a'), line('b')], sha256);
    const three = extendChain(two.head, owner, [line('c')], sha256);
    const all = [...two.lines, ...three.lines];
    expect(checkChain(owner, all, two.head, null, sha256).fault).toMatchObject({ number: 3, kind: 'added' });
    expect(checkChain(owner, two.lines, three.head, null, sha256).fault).toMatchObject({
      number: 3,
      kind: 'missing',
      sentence: 'Line 3 is missing: 3 lines were written, and 2 are here.',
    });
    expect(checkChain(owner, [], start, null, sha256).fault).toBeNull();
  });

  it('of one move is none of another', () => {
    const { lines, head } = extendChain(
      start,
      owner,
      [
        {
          at: '2026-03-02T10:00:00Z',
          by: 'Odd',
          kind: 'x',
          sentence: '',
          importedBy: null,
          recordHash: null,
        },
      ],
      sha256,
    );
    expect(checkChain('another', lines, head, null, sha256).fault).toMatchObject({
      kind: 'changed',
      number: 1,
    });
  });
});

describe('a log that is read', () => {
  it('has every line in exactly one row, in order; no exception is folded away', () => {
    let folds = 0;
    fc.assert(
      fc.property(contents, fc.option(fc.integer({ min: 1, max: 20 }), { nil: null }), (made, crossing) => {
        const { lines } = extendChain(start, owner, made, sha256);
        const rows = foldLog(lines, crossing);
        expect(rows.flatMap((row) => (row.kind === 'line' ? [row.line] : row.lines))).toEqual(lines);
        for (const row of rows)
          if (row.kind === 'fold') {
            folds += 1;
            expect(row.lines.length).toBeGreaterThanOrEqual(3);
            for (const { kind, number } of row.lines) {
              expect(kind).not.toBe('gate-overruled');
              expect(number).not.toBe(crossing);
            }
          }
      }),
      { numRuns: 300 },
    );
    expect(folds).toBeGreaterThan(20);
  });
});

describe('a date', () => {
  const line = (at: string, importedBy: string | null = null): ChainContent => ({
    at,
    by: 'Odd',
    kind: 'prepared',
    sentence: 'Noted.',
    importedBy,
    recordHash: null,
  });
  const fault = (first: ChainContent, second: ChainContent) => {
    const { lines, head } = extendChain(start, owner, [first, second], sha256);
    return checkChain(owner, lines, head, null, sha256).fault?.kind;
  };

  it('may be a minute before the line above it, as two servers’ clocks may differ, and no more', () => {
    const ten = line('2026-03-02T10:00:00.000Z');
    expect(fault(ten, line('2026-03-02T09:59:00.000Z'))).toBeUndefined();
    expect(fault(ten, line('2026-03-02T09:58:59.999Z'))).toBe('backdated');
    // What was imported has the dates of the house that it comes from.
    expect(fault(ten, line('2025-01-01T00:00:00.000Z', 'Maud'))).toBeUndefined();
    expect(fault(line('2026-03-02T10:00:00.000Z', 'Maud'), line('2025-01-01T00:00:00.000Z'))).toBeUndefined();
  });
});
