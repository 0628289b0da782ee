import { fail, type Outcome } from '../outcome/outcome';
import { parseWith } from '../outcome/parseWith';
import { factTexts } from './describe';
import { laidOver } from './factsFromSurvey';
import { FactsSchema, factValueSchemas, type FactKey, type Facts } from './facts';

/**
 * Sets one fact that a technician typed. The rest of the facts stay as they are.
 * @param at ISO instant; @param by who typed it
 * @returns the new facts, or why the value does not fit the fact
 */
export function setTypedFact(
  facts: Facts,
  key: FactKey,
  value: unknown,
  at: string,
  by: string,
): Outcome<Facts> {
  const parsed = parseWith(factValueSchemas[key], value);
  if (!parsed.ok)
    return fail(
      'fact-unfit',
      `/facts/${key}`,
      `${factTexts[key].label}: ${parsed.problems.map(({ sentence }) => sentence).join(' ')}`,
    );
  const { [key]: before } = facts;
  const typed = { value: parsed.value, source: 'typed', at, by } as NonNullable<Facts[FactKey]>;
  return parseWith(FactsSchema, { ...facts, [key]: laidOver(before, typed) });
}

/** The facts without one of them: it becomes unknown again. */
export function forgetFact(facts: Facts, key: FactKey): Facts {
  const { [key]: _forgotten, ...rest } = facts;
  return rest;
}
