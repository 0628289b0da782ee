import { printCount } from '../../quantity/count';
import { dequal } from 'dequal';
import { parseWith } from '../../outcome/parseWith';
import { compareFacts } from '../../survey/compareFacts';
import { contradictionsOf } from '../../survey/contradictions';
import { FactsSchema } from '../../survey/facts';
import { mergeFacts } from '../../survey/factsFromSurvey';
import type { ListRow } from '../../survey/listFields';
import type { Move } from '../move';
import { changed, refuseWhenDone, type CommandContext, type CommandOutcome } from './command';

/**
 * Lays a row of a list over a move. Facts that say the same already keep their source, so that taking
 * the same list again changes nothing. Refused where the row contradicts itself or what is known.
 */
export function takeRow(move: Move, row: ListRow, { actor, now, catalogue }: CommandContext): CommandOutcome {
  const closed = refuseWhenDone(move);
  if (closed) return closed;
  const parsed = parseWith(
    FactsSchema,
    Object.fromEntries(
      row.facts.map(({ key, value }) => [key, { value, source: 'imported', at: now, by: actor.name }]),
    ),
  );
  if (!parsed.ok) return parsed;
  const changes = new Set(compareFacts(move.facts, parsed.value).map(({ key }) => key));
  const news = Object.fromEntries(
    Object.entries(parsed.value).filter(([key]) => [...changes].some((one) => one === key)),
  );
  const facts = mergeFacts(move.facts, news);
  const before = new Set(contradictionsOf(move.facts, catalogue).map(({ sentence }) => sentence));
  const contradictions = contradictionsOf(facts, catalogue).filter(({ sentence }) => !before.has(sentence));
  if (contradictions.length > 0)
    return {
      ok: false,
      problems: contradictions.map(({ sentence, keys }) => ({
        code: 'contradiction',
        path: keys[0] ?? '',
        sentence,
      })),
    };
  const { owner = move.owner, site = move.site, dueOn = move.dueOn } = row.identity;
  return changed(
    { ...move, owner, site, dueOn, facts },
    'list-taken',
    `Row of a list applied: ${printCount(changes.size, 'fact')} new or changed.`,
  );
}

/** Whether taking a row changed anything. */
export function rowChanged(before: Move, after: Move): boolean {
  return !dequal(before, after);
}
