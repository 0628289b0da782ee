import { fail } from '../../outcome/outcome';
import { parseWith } from '../../outcome/parseWith';
import { practiceLabel, practiceTexts } from '../../practice/explain';
import { PracticeSchema, type Departure } from '../../practice/practice';
import type { Move } from '../move';
import { changed, refuseWhenDone, type CommandContext, type CommandOutcome } from './command';

/**
 * Lets a move depart from house rules in one setting, with a reason; the house’s own answer takes
 * the departure back.
 */
export function depart(
  move: Move,
  { setting, value, reason }: Pick<Departure, 'setting' | 'value' | 'reason'>,
  { practice, actor, now }: CommandContext,
): CommandOutcome {
  const closed = refuseWhenDone(move);
  if (closed) return closed;
  const fits = parseWith(PracticeSchema, { ...practice, [setting]: value });
  if (!fits.ok)
    return fail(
      'no-such-answer',
      '/value',
      `“${practiceTexts[setting].title}” has no answer “${value}”: it takes ${practiceTexts[setting].sides.map((side) => side.value).join(' or ')}.`,
    );
  const rest = move.departures.filter((departure) => departure.setting !== setting);
  const said = `${practiceTexts[setting].title}: ${practiceLabel(setting, value)}`;
  if (practice[setting] === value)
    return changed({ ...move, departures: rest }, 'practice-followed', `${said}, as the house does.`);
  if (reason.trim() === '')
    return fail('reason-needed', '/reason', 'Say why this move makes an exception from the house rules.');
  return changed(
    { ...move, departures: [...rest, { setting, value, reason: reason.trim(), at: now, by: actor.name }] },
    'practice-departed',
    `${said}, other than the house: ${reason.trim()}`,
  );
}
