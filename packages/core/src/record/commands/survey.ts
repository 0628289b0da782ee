import { printCount } from '../../quantity/count';
import { printInstantIn } from '../../quantity/localTime';
import { compareFacts } from '../../survey/compareFacts';
import { factTexts } from '../../survey/describe';
import { factsFromSurvey, mergeFacts } from '../../survey/factsFromSurvey';
import { fail, type Problem } from '../../outcome/outcome';
import { factKeys, type FactKey, type FactSource } from '../../survey/facts';
import type { Survey } from '../../survey/format';
import { forgetFact, setTypedFact } from '../../survey/typedFact';
import { alignIdentified } from '../identitySignature';
import type { Move } from '../move';
import { changed, refuseWhenDone, type CommandContext, type CommandOutcome } from './command';

/** Takes a survey: its facts are laid over the known ones. */
export function takeSurvey(
  move: Move,
  survey: Survey,
  source: FactSource,
  { actor, now, houseRules }: CommandContext,
): CommandOutcome {
  const closed = refuseWhenDone(move);
  if (closed) return closed;
  const taken = factsFromSurvey(survey, source);
  const changes = compareFacts(move.facts, taken);
  const surveyed = {
    ...move,
    facts: mergeFacts(move.facts, taken),
    folders: survey.folders ?? move.folders,
    surveys: [
      ...move.surveys,
      {
        takenAt: survey.takenAt,
        importedAt: now,
        by: actor.name,
        source,
        rootWouldAdd: survey.collector?.rootWouldAdd ?? [],
      },
    ],
  };
  return changed(
    // Another disk may be in its place by now.
    alignIdentified(surveyed, now, actor.name),
    'survey-taken',
    `Survey of ${printInstantIn(houseRules.timeZone, survey.takenAt)} applied: ${printCount(changes.length, 'fact')} new or changed.`,
  );
}

export function typeFact(
  move: Move,
  key: FactKey,
  value: unknown,
  { actor, now }: CommandContext,
): CommandOutcome {
  const closed = refuseWhenDone(move);
  if (closed) return closed;
  const facts = setTypedFact(move.facts, key, value, now, actor.name);
  return facts.ok
    ? changed({ ...move, facts: facts.value }, 'fact-typed', `${factTexts[key].label} typed.`)
    : facts;
}

/** Several facts at once, all of them or none: the answers of one sheet. */
export function typeFacts(
  move: Move,
  values: Readonly<Partial<Record<FactKey, unknown>>>,
  { actor, now }: CommandContext,
): CommandOutcome {
  const closed = refuseWhenDone(move);
  if (closed) return closed;
  const keys = factKeys.filter((key) => key in values);
  if (keys.length === 0) return fail('fact-unfit', '/facts', 'No fact was given: answer at least one.');
  let { facts } = move;
  const problems: Problem[] = [];
  for (const key of keys) {
    const next = setTypedFact(facts, key, values[key], now, actor.name);
    if (next.ok) facts = next.value;
    else problems.push(...next.problems);
  }
  if (problems.length > 0) return { ok: false, problems };
  return changed(
    { ...move, facts },
    'fact-typed',
    `${keys.map((key) => factTexts[key].label).join(', ')} typed.`,
  );
}

export function makeFactUnknown(move: Move, key: FactKey): CommandOutcome {
  return (
    refuseWhenDone(move) ??
    changed(
      { ...move, facts: forgetFact(move.facts, key) },
      'fact-forgotten',
      `${factTexts[key].label} set back to unknown.`,
    )
  );
}
