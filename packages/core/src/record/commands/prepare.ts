import { buildRunbook } from '../../runbook/buildRunbook';
import { parseWith } from '../../outcome/parseWith';
import { PreparationSchema, type Preparation } from '../../runbook/preparation';
import { partsBeyondDisk } from '../../runbook/layoutApart';
import { lineCrossed } from '../../runbook/signature';
import { fail } from '../../outcome/outcome';
import { troubleSigns } from '../../runbook/troubles';
import { openTroubleOf } from '../troubles';
import { alignCopySteps } from '../copySignatures';
import { alignIdentified, whyNotIdentified } from '../identitySignature';
import type { Move } from '../move';
import { runbookInput } from '../reading';
import { changed, refuseWhenDone, type CommandContext, type CommandOutcome, todayOf } from './command';

type Stamp = { readonly at: string; readonly by: string };

/** What the technician typed or confirmed; who and when are added here. Null takes it back. */
export type PreparationPatch = {
  readonly [K in keyof Preparation]?: NonNullable<Preparation[K]> extends Stamp
    ? Omit<NonNullable<Preparation[K]>, keyof Stamp> | null
    : Preparation[K];
};

const titles: Record<keyof Preparation, string> = {
  stick: 'Installer stick',
  image: 'Image at hand',
  licence: 'Licence',
  recoveryKey: 'Recovery key',
  passphrase: 'Passphrase',
  diskMarks: 'Serial number and size of the disk',
  power: 'Power',
  networkDriver: 'Network driver',
  nothingToSave: 'Nothing to save',
  wantedSystemBytes: 'Wanted system size',
  dataParts: 'Partitions for data',
  holdUntil: 'Hold until',
  ownerConsent: 'Owner’s consent',
  organisationConsent: 'Organisation’s consent',
  isolation: 'Isolation list',
  replacement: 'New device',
  dataMoved: 'Data moved',
  wipe: 'Wipe of the old disk',
  disposal: 'Disposal',
};

/** Notes that are kept as they are typed: everything else gets who and when. */
const unstamped: ReadonlySet<string> = new Set(['stick', 'wantedSystemBytes', 'dataParts', 'holdUntil']);

const isTakenBack = (value: unknown) => value === null || (Array.isArray(value) && value.length === 0);

/** Notes what has been got ready; each note keeps who and when. */
export function prepare(move: Move, patch: PreparationPatch, context: CommandContext): CommandOutcome {
  const { actor, now } = context;
  const closed = refuseWhenDone(move);
  if (closed) return closed;
  const stamped = Object.entries(patch).map(([key, value]) =>
    value === null || unstamped.has(key) || typeof value !== 'object'
      ? [key, value]
      : [key, { ...value, at: now, by: actor.name }],
  );
  const preparation = parseWith(PreparationSchema, { ...move.preparation, ...Object.fromEntries(stamped) });
  if (!preparation.ok) return preparation;
  if (patch.holdUntil != null && patch.holdUntil <= todayOf(context))
    return fail('hold-is-over', '/preparation/holdUntil', 'A hold ends on a day that is still to come.');
  const { dataParts, wantedSystemBytes } = patch;
  const isDivided = preparation.value.dataParts.length > 0 && (dataParts ?? wantedSystemBytes) != null;
  const divided = isDivided ? runbookInput({ ...move, preparation: preparation.value }, context) : undefined;
  const beyond = divided && partsBeyondDisk(divided);
  if (beyond !== undefined) return fail('parts-beyond-disk', '/preparation/dataParts', beyond);
  const keys = Object.keys(patch).filter((key): key is keyof Preparation => key in titles);
  const what = keys
    .map((key) => `${titles[key]} ${isTakenBack(patch[key]) ? 'withdrawn' : 'noted'}`)
    .join(', ');
  const noted = { ...move, preparation: preparation.value };
  const aligned = 'diskMarks' in patch ? alignIdentified(noted, now, actor.name) : noted;
  return changed(aligned, 'prepared', `${what || 'Nothing changed'}.`);
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
  const trouble = openTroubleOf(move);
  if (trouble && (trouble.detour || !built.value.steps.some(({ id }) => id === trouble.stepId)))
    return fail(
      'trouble-open',
      '',
      `“${troubleSigns[trouble.sign]}” at “${trouble.stepTitle}” still holds the runbook up: finish its detour or end it, then plan again.`,
    );
  const planned = { ...move, plan: { runbook: built.value, at: context.now, by: context.actor.name } };
  const aligned = alignCopySteps(planned, context.now, context.actor.name);
  return changed(
    // A signature that stands is kept when a plan is made again: only withdrawing the marks opens the step.
    whyNotIdentified(aligned) === undefined
      ? alignIdentified(aligned, context.now, context.actor.name)
      : aligned,
    move.plan ? 'planned-again' : 'planned',
    `Runbook ${move.plan ? 'made again' : 'made'}: ${built.value.title}, ${built.value.steps.length} steps.`,
  );
}
