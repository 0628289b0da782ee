import { withFacts } from '../survey/patch';
import { candidateFor, contextFor, type Candidate } from './candidates';
import type { DecideInput } from './input';
import { routes } from '../route/catalogueOfRoutes';
import type { Remedy } from '../route/definition';

type SmallestChange = {
  readonly remedies: readonly Remedy[];
  readonly handsOnMinutes: number;
  readonly cost: number;
  /** The remedies as one order: “Turn the security chip (TPM) on and free 9.0 GB on the system partition”. */
  readonly sentence: string;
};

/** More than this at once is not a change but another device. */
const maxRemedies = 5;

/** Everything that could be done about a candidate, by the rules that exclude it and the fixes that it needs. */
function remediesFor(
  input: DecideInput,
  candidate: Pick<Candidate, 'routeId' | 'releaseId'>,
): readonly Remedy[] {
  const context = contextFor(input, candidate);
  if (!context) return [];
  const found = new Map<string, Remedy>();
  for (const rule of routes[candidate.routeId].rules) {
    const excludes = rule.judge(context).finding === 'excludes';
    // Fixes belong to the change even where they do not exclude: the release asks for them.
    if (excludes || rule.id.startsWith('requirements'))
      for (const remedy of rule.remedies?.(context) ?? []) found.set(remedy.id, remedy);
  }
  return [...found.values()];
}

function isReached(input: DecideInput, candidate: Pick<Candidate, 'routeId' | 'releaseId'>): boolean {
  const now = candidateFor(input, candidate);
  if (now?.status !== 'allowed') return false;
  const context = contextFor(input, candidate);
  return context?.target === undefined || context.target.assessment.judgements.every(({ fix }) => !fix);
}

/**
 * The smallest set of changes to the device that allows an excluded candidate, fixes that it needs
 * included: fewest first, then cheapest, then quickest. Tried set by set against the rules
 * themselves, so that it holds. Undefined when nothing that can be changed allows it.
 */
export function smallestChange(
  input: DecideInput,
  candidate: Pick<Candidate, 'routeId' | 'releaseId'>,
): SmallestChange | undefined {
  const best = search(input, candidate);
  if (!best) return undefined;
  return {
    remedies: best,
    handsOnMinutes: best.reduce((sum, remedy) => sum + remedy.handsOnMinutes, 0),
    cost: best.reduce((sum, remedy) => sum + remedy.cost, 0),
    sentence: sentenceOf(best),
  };
}

/** Breadth first over sets of remedies; a remedy may call for another one that was not needed before. */
function search(
  input: DecideInput,
  candidate: Pick<Candidate, 'routeId' | 'releaseId'>,
): readonly Remedy[] | undefined {
  type Stand = { readonly facts: DecideInput['facts']; readonly remedies: readonly Remedy[] };
  let stands: readonly Stand[] = [{ facts: input.facts, remedies: [] }];
  for (let size = 0; size <= maxRemedies; size += 1) {
    const reached = stands.filter(({ facts }) => isReached({ ...input, facts }, candidate));
    if (reached.length > 0)
      return reached.sort((a, b) => dearness(a.remedies) - dearness(b.remedies))[0]?.remedies;
    const seen = new Set<string>();
    stands = stands.flatMap(({ facts, remedies }) =>
      remediesFor({ ...input, facts }, candidate).flatMap((remedy) => {
        if (remedies.some(({ id }) => id === remedy.id)) return [];
        const key = [...remedies.map(({ id }) => id), remedy.id].sort().join(' ');
        if (seen.has(key)) return [];
        seen.add(key);
        return [{ facts: withFacts(facts, remedy.gives(facts)), remedies: [...remedies, remedy] }];
      }),
    );
    if (stands.length === 0) return undefined;
  }
  return undefined;
}

function dearness(remedies: readonly Remedy[]): number {
  return remedies.reduce((sum, { cost, handsOnMinutes }) => sum + cost * 1000 + handsOnMinutes, 0);
}

function sentenceOf(remedies: readonly Remedy[]): string {
  const words = remedies.map(({ action }, index) =>
    index === 0 ? action : `${action.charAt(0).toLowerCase()}${action.slice(1)}`,
  );
  return `${words.slice(0, -1).join(', ')}${words.length > 1 ? ' and ' : ''}${words.at(-1) ?? ''}.`;
}
