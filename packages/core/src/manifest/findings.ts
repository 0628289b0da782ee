import type { ProblemCode } from '../outcome/problemCodes';
import type { Problem } from '../outcome/outcome';

/** How many of one kind are kept word for word; the rest is counted. */
const keptEach = 50;

/** Something met while a list was read that was put right and is told. */
export type Note = { readonly code: string; readonly count: number; readonly sentence: string };

/** Collects refusals by line, and counts what was put right. */
export class Findings {
  private readonly refusals = new Map<ProblemCode, { readonly kept: Problem[]; count: number }>();
  private readonly noted = new Map<string, { count: number; readonly sentence: (count: number) => string }>();

  refuse(code: ProblemCode, line: number, sentence: string): void {
    const entry = this.refusals.get(code) ?? { kept: [], count: 0 };
    entry.count += 1;
    if (entry.kept.length < keptEach) entry.kept.push({ code, path: `/lines/${line}`, sentence });
    this.refusals.set(code, entry);
  }

  note(code: string, sentence: (count: number) => string): void {
    const entry = this.noted.get(code) ?? { count: 0, sentence };
    entry.count += 1;
    this.noted.set(code, entry);
  }

  get notes(): readonly Note[] {
    return [...this.noted].map(([code, { count, sentence }]) => ({ code, count, sentence: sentence(count) }));
  }

  /** The refusals in order of line, with one line more for each kind of which not all are kept. */
  get problems(): readonly Problem[] {
    return [...this.refusals].flatMap(([code, { kept, count }]) => [
      ...kept,
      ...(count > kept.length
        ? [
            {
              code,
              path: '',
              sentence: `${count - kept.length} more lines have the same fault as line ${kept[0]?.path.slice('/lines/'.length) ?? ''}.`,
            },
          ]
        : []),
    ]);
  }
}
