import { dayIn } from '../../quantity/localTime';
import type { Outcome } from '../../outcome/outcome';
import { fail, succeed } from '../../outcome/outcome';
import { lineCrossed } from '../../runbook/signature';
import type { House } from '../reading';
import type { Move } from '../move';

export const roles = ['technician', 'lead', 'observer'] as const;
export type Role = (typeof roles)[number];

/** Who acts, and when: handed in, so that core has no clock. */
export type CommandContext = House & {
  readonly actor: { readonly name: string; readonly role: Role };
  /** ISO instant. */
  readonly now: string;
};

/** A change of a move and the sentence for its log. */
export type Change = { readonly move: Move; readonly kind: string; readonly sentence: string };

export type CommandOutcome = Outcome<Change>;

/** The day of a change, in the house's time zone. */
export function todayOf({ houseRules, now }: Pick<CommandContext, 'houseRules' | 'now'>): string {
  return dayIn(houseRules.timeZone, now);
}

export function changed(move: Move, kind: string, sentence: string): CommandOutcome {
  return succeed({ move, kind, sentence });
}

/** Refused for the role; the API answers 403. */
export function onlyLeads(what: string): CommandOutcome {
  return fail('only-leads', '', `Only a lead may ${what}.`);
}

/** A move that has been handed over or called off changes no more. */
export function refuseWhenDone({ reference, handover, calledOff }: Move): CommandOutcome | undefined {
  if (handover.signedOff)
    return fail(
      'handed-over',
      '',
      `${reference} was handed over: its record is closed. Start a new move for the device.`,
    );
  return calledOff
    ? fail('called-off', '', `${reference} was called off by ${calledOff.by}: resume it first.`)
    : undefined;
}

/** What was saved stands once the Line has been crossed. */
export function refuseBelowLine(move: Move): CommandOutcome | undefined {
  return move.plan && lineCrossed(move.plan.runbook, move.signatures)
    ? fail(
        'line-crossed',
        '',
        'The Line has been crossed: what was saved can no longer be changed, only restored.',
      )
    : undefined;
}
