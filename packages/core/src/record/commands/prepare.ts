import { buildRunbook } from '../../runbook/buildRunbook';
import type { Preparation } from '../../runbook/preparation';
import { lineCrossed } from '../../runbook/signature';
import { fail } from '../../outcome/outcome';
import { alignCopySteps } from '../copySignatures';
import type { Move } from '../move';
import { runbookInput } from '../reading';
import { changed, refuseWhenDone, type CommandContext, type CommandOutcome } from './command';

type Stamped = 'licence' | 'recoveryKey' | 'diskMarks' | 'power' | 'networkDriver' | 'nothingToSave';

/** What the technician typed or confirmed; who and when are added here. Null takes it back. */
export type PreparationPatch = {
  readonly [K in keyof Preparation]?: K extends Stamped
    ? Omit<NonNullable<Preparation[K]>, 'at' | 'by'> | null
    : Preparation[K];
};

const titles: Record<keyof Preparation, string> = {
  stick: 'Installer stick',
  licence: 'Licence',
  recoveryKey: 'Recovery key',
  diskMarks: 'Disk marks',
  power: 'Power',
  networkDriver: 'Network driver',
  nothingToSave: 'Nothing to save',
  wantedSystemBytes: 'Wanted system size',
  holdUntil: 'Hold until',
};

/** Notes what has been got ready; each note keeps who and when. */
export function prepare(move: Move, patch: PreparationPatch, { actor, now }: CommandContext): CommandOutcome {
  const closed = refuseWhenDone(move);
  if (closed) return closed;
  const stamp = { at: now, by: actor.name };
  const stamped = <T extends object>(value: T | null) => (value === null ? null : { ...value, ...stamp });
  const preparation: Preparation = {
    ...move.preparation,
    ...(patch.stick === undefined ? {} : { stick: patch.stick }),
    ...(patch.licence === undefined ? {} : { licence: stamped(patch.licence) }),
    ...(patch.recoveryKey === undefined ? {} : { recoveryKey: stamped(patch.recoveryKey) }),
    ...(patch.diskMarks === undefined ? {} : { diskMarks: stamped(patch.diskMarks) }),
    ...(patch.power === undefined ? {} : { power: stamped(patch.power) }),
    ...(patch.networkDriver === undefined ? {} : { networkDriver: stamped(patch.networkDriver) }),
    ...(patch.nothingToSave === undefined ? {} : { nothingToSave: stamped(patch.nothingToSave) }),
    ...(patch.wantedSystemBytes === undefined ? {} : { wantedSystemBytes: patch.wantedSystemBytes }),
    ...(patch.holdUntil === undefined ? {} : { holdUntil: patch.holdUntil }),
  };
  const keys = Object.keys(patch).filter((key): key is keyof Preparation => key in titles);
  const what = keys.map((key) => `${titles[key]} ${patch[key] === null ? 'taken back' : 'noted'}`).join(', ');
  return changed({ ...move, preparation }, 'prepared', `${what || 'Nothing changed'}.`);
}

/**
 * Generates the runbook, or generates it again after something changed. Signatures stay: they belong
 * to steps, not to plans.
 */
export function plan(move: Move, context: CommandContext): CommandOutcome {
  const closed = refuseWhenDone(move);
  if (closed) return closed;
  const input = runbookInput(move, context);
  if (!input) return fail('no-route', '/decision', 'No route is chosen yet: choose one on Decide.');
  const built = buildRunbook(input);
  if (!built.ok) return built;
  if (
    move.plan &&
    lineCrossed(move.plan.runbook, move.signatures) &&
    !lineCrossed(built.value, move.signatures)
  )
    return fail(
      'line-crossed',
      '',
      'The Line has been crossed, and the new plan does not have the step that crossed it: go on with the plan as it is.',
    );
  const planned = { ...move, plan: { runbook: built.value, at: context.now, by: context.actor.name } };
  return changed(
    alignCopySteps(planned, context.now, context.actor.name),
    move.plan ? 'planned-again' : 'planned',
    `Runbook ${move.plan ? 'made again' : 'made'}: ${built.value.title}, ${built.value.steps.length} steps.`,
  );
}
