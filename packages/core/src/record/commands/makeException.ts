import { fail } from '../../outcome/outcome';
import { parseWith } from '../../outcome/parseWith';
import { houseRuleLabel, houseRuleTexts } from '../../rules/explain';
import { HouseRulesSchema, type RuleException } from '../../rules/houseRules';
import type { Move } from '../move';
import { changed, refuseWhenDone, type CommandContext, type CommandOutcome } from './command';

/**
 * Lets a move depart from house rules in one setting, with a reason; the house’s own answer takes
 * the exception back.
 */
export function depart(
  move: Move,
  { setting, value, reason }: Pick<RuleException, 'setting' | 'value' | 'reason'>,
  { houseRules, actor, now }: CommandContext,
): CommandOutcome {
  const closed = refuseWhenDone(move);
  if (closed) return closed;
  const fits = parseWith(HouseRulesSchema, { ...houseRules, [setting]: value });
  if (!fits.ok)
    return fail(
      'no-such-answer',
      '/value',
      `“${houseRuleTexts[setting].title}” has no answer “${value}”: it takes ${houseRuleTexts[setting].sides.map((side) => side.value).join(' or ')}.`,
    );
  const rest = move.departures.filter((exception) => exception.setting !== setting);
  const said = `${houseRuleTexts[setting].title}: ${houseRuleLabel(setting, value)}`;
  if (houseRules[setting] === value)
    return changed({ ...move, departures: rest }, 'practice-followed', `${said}, as the house does.`);
  if (reason.trim() === '')
    return fail('reason-needed', '/reason', 'Say why this move makes an exception from the house rules.');
  return changed(
    { ...move, departures: [...rest, { setting, value, reason: reason.trim(), at: now, by: actor.name }] },
    'practice-departed',
    `${said}, other than the house: ${reason.trim()}`,
  );
}
