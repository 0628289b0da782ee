import { Instrumenter } from '@stryker-mutator/instrumenter';
import { readdirSync, readFileSync } from 'node:fs';
import { join } from 'node:path';

/** Kinds of mutants that say nothing of a rule: sentences are worded, and tables list words. */
export const excludedMutations = ['StringLiteral', 'ObjectLiteral', 'ArrayDeclaration', 'Regex'];

/** A place with more mutants than this inside is a whole function: its parts are drawn instead. */
const maxInside = 4;

const silent = () => undefined;
const logger = {
  isTraceEnabled: () => false,
  isDebugEnabled: () => false,
  isInfoEnabled: () => false,
  isWarnEnabled: () => false,
  isErrorEnabled: () => false,
  isFatalEnabled: () => false,
  trace: silent,
  debug: silent,
  info: silent,
  warn: silent,
  error: silent,
  fatal: silent,
};

type Place = { readonly line: number; readonly column: number };
type Spot = { readonly file: string; readonly start: Place; readonly end: Place };

const upTo = (a: Place, b: Place) => a.line < b.line || (a.line === b.line && a.column <= b.column);
const holds = (outer: Spot, inner: Spot) =>
  outer.file === inner.file && upTo(outer.start, inner.start) && upTo(inner.end, outer.end);

/** Numbers from 0 to 1 that follow from a seed: a linear congruential generator (Knuth's MMIX constants). */
function numbersFrom(seed: number): () => number {
  let state = BigInt(seed);
  return () => {
    state = BigInt.asUintN(64, state * 6364136223846793005n + 1442695040888963407n);
    return Number(state >> 33n) / 2 ** 31;
  };
}

/**
 * Draws places of code until they hold as many mutants as asked for.
 * @param folders below `packages/core/src`
 * @returns ranges as the mutation tool takes them, and how many mutants there are to draw from
 */
export async function drawMutants(
  folders: readonly string[],
  wanted: number,
  seed: number,
): Promise<{ readonly ranges: readonly string[]; readonly drawn: number; readonly all: number }> {
  const files = folders.flatMap((folder) => {
    const home = join('packages/core/src', folder);
    return readdirSync(home, { recursive: true, encoding: 'utf8' })
      .filter((name) => name.endsWith('.ts') && !name.endsWith('index.ts'))
      .map((name) => join(home, name));
  });
  const { mutants } = await new Instrumenter(logger).instrument(
    files.map((name) => ({ name, content: readFileSync(name, 'utf8'), mutate: true })),
    { plugins: null, excludedMutations, ignorers: [] },
  );
  const spots = mutants.map(({ fileName, location }) => ({ file: fileName, ...location }));
  const inside = (spot: Spot) => spots.filter((other) => holds(spot, other)).length;
  const next = numbersFrom(seed);
  const order = spots
    .map((spot) => ({ spot, key: next() }))
    .toSorted((a, b) => a.key - b.key)
    .map(({ spot }) => spot);
  const chosen: Spot[] = [];
  let drawn = 0;
  for (const spot of order) {
    if (drawn >= wanted) break;
    if (chosen.some((other) => holds(other, spot) || holds(spot, other))) continue;
    const count = inside(spot);
    if (count > maxInside) continue;
    chosen.push(spot);
    drawn += count;
  }
  return {
    ranges: chosen.map(
      ({ file, start, end }) => `${file}:${start.line + 1}:${start.column}-${end.line + 1}:${end.column}`,
    ),
    drawn,
    all: spots.length,
  };
}
