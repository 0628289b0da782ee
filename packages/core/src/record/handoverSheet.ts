import { describeGrade } from '../backup/copies/grade';
import { findRelease, releaseTitle } from '../catalogue/find';
import { printBothUnits } from '../quantity/bytes';
import { dayIn, printInstantIn } from '../quantity/localTime';
import { printCount } from '../quantity/count';
import { diskBytes, diskMark } from '../survey/disk';
import { valueOf } from '../survey/facts';
import { presentTitle } from '../survey/presentTitle';
import { routes } from '../route/catalogueOfRoutes';
import { after } from '../machine/operatorRules';
import { changedPositions } from '../machine/positions';
import { planSteps } from '../runbook/planSteps';
import { isSigned, standingOf } from '../runbook/signature';
import { troubleSigns } from '../runbook/troubles';
import { gates } from '../runbook/gates';
import { accountFor, type Accounting } from './handover';
import { deviceTitle } from './hands';
import type { Move } from './move';
import { runbookInput, type House } from './reading';
import { reconciledSentence } from './reconciled';

export type HandoverSheet = {
  readonly title: string;
  readonly identity: readonly (readonly [label: string, value: string])[];
  readonly done: readonly {
    readonly title: string;
    readonly by: string;
    readonly at: string;
    readonly minutes: string;
    readonly note: string;
  }[];
  readonly files: readonly {
    readonly name: string;
    readonly before: string;
    readonly after: string;
    readonly outcome: string;
  }[];
  readonly overrules: readonly string[];
  /** Positions of the firmware that the signed steps changed; empty where none are, or the plan cannot be read any more. */
  readonly firmware: readonly string[];
  /** What went wrong and what it was, a sentence each. */
  readonly troubles: readonly string[];
  readonly openPoints: readonly string[];
  /** Every copy with its grade, a sentence a data set. */
  readonly copies: readonly string[];
  /** What becomes of the backups, a sentence each. */
  readonly backups: readonly string[];
  readonly signed: string | null;
};

function amount(fileCount: number, sizeBytes: number): string {
  return `${printCount(fileCount, 'file')}, ${printBothUnits(sizeBytes)}`;
}

/** Everything that stands on the hand-over sheet, for the screen, the printer and the PDF alike. */
export function handoverSheet(move: Move, house: House): HandoverSheet {
  const { catalogue, houseRules } = house;
  const { facts, decision, handover } = move;
  const zone = houseRules.timeZone;
  const target = findRelease(catalogue, decision?.releaseId ?? undefined);
  const disks = (valueOf(facts, 'disks') ?? [])
    .map((disk) => `${diskMark(disk)} ${printBothUnits(diskBytes(disk))}`)
    .join('; ');
  return {
    title: `${move.reference}: ${deviceTitle(facts)}`,
    identity: [
      ['Device', deviceTitle(facts)],
      ['Serial', valueOf(facts, 'serial') ?? 'unknown'],
      ['Disks', disks || 'unknown'],
      ['Owner', [move.owner, move.site].filter((part) => part !== '').join(', ') || 'not named'],
      ['From', presentTitle(catalogue, facts) || 'unknown'],
      ['To', target ? releaseTitle(target) : decision ? routes[decision.routeId].title : 'not chosen'],
      ['Route', decision ? routes[decision.routeId].title : 'not chosen'],
    ],
    done: stepsDone(move, zone),
    files: accountFor(move).map((line) => {
      const dataSet = move.dataSets.find(({ id }) => id === line.dataSetId);
      const compared = move.reconciled.find(({ dataSetId }) => dataSetId === line.dataSetId);
      const found = handover.found.find(({ dataSetId }) => dataSetId === line.dataSetId);
      return {
        name: dataSet?.name ?? line.dataSetId,
        before: dataSet ? amount(dataSet.fileCount, dataSet.sizeBytes) : '',
        after: compared
          ? reconciledSentence(compared)
          : found
            ? amount(found.fileCount, found.sizeBytes)
            : 'not counted',
        outcome: outcomeOf(line, found?.explanation ?? ''),
      };
    }),
    overrules: move.overrules.map(
      ({ gateId, reason, by, at }) =>
        `${gates.find(({ id }) => id === gateId)?.title ?? gateId}: overruled by ${by}, ${dayIn(zone, at)}: ${reason}`,
    ),
    firmware: positionsChanged(move, house),
    troubles: troublesOver(move, zone),
    openPoints: handover.openPoints,
    copies: move.dataSets.flatMap(({ id, name }) => {
      const own = move.copies.filter(({ dataSetId }) => dataSetId === id);
      const on = (destinationId: string) =>
        move.destinations.find((destination) => destination.id === destinationId)?.name ?? destinationId;
      return own.length === 0
        ? []
        : [`${name}: ${own.map((copy) => `${on(copy.destinationId)} ${describeGrade(copy)}`).join('; ')}.`];
    }),
    backups: move.retention.map(
      ({ label, place, keepUntil, wiped }) =>
        `${label}: ${place}; ${wiped ? `wiped on ${dayIn(zone, wiped.at)} by ${wiped.by}, ${wiped.method}` : `kept until ${keepUntil}, then wiped`}.`,
    ),
    signed: handover.signedOff
      ? `${handover.signedOff.ownerName}, ${dayIn(zone, handover.signedOff.at)}, before ${handover.signedOff.by}`
      : null,
  };
}

/** The firmware before the first step, against that after the last signed one. */
function positionsChanged(move: Move, house: House): readonly string[] {
  const input = runbookInput(move, house);
  const planned = input && planSteps(input);
  if (!planned?.ok) return [];
  const { steps, worlds } = planned.value;
  const last = steps.findLastIndex(({ step }) => isSigned(move.signatures, step.id));
  const done = steps.slice(0, last + 1).flatMap(({ operators }) => operators);
  return changedPositions(
    worlds.map(({ firmware }) => firmware),
    worlds.map((world) => done.reduce(after, world).firmware),
  );
}

function troublesOver(move: Move, zone: string): readonly string[] {
  return move.troubles.flatMap(({ sign, stepTitle, seenAt, detour, closed }) =>
    closed
      ? [
          `${troubleSigns[sign]}, at “${stepTitle}”, ${printInstantIn(zone, seenAt)}: ${closed.how === 'remedied' ? `over after “${detour?.title ?? ''}”.` : closed.note}`,
        ]
      : [],
  );
}

function outcomeOf({ state, by, openBecause }: Accounting, explanation: string): string {
  if (state === 'open') return openBecause;
  if (state === 'equal') return by === 'comparison' ? 'all back, every file compared' : 'all back';
  return by === 'comparison' ? 'every difference explained; the list is with the move' : explanation;
}

/** Every signed step in the order of signing, those of earlier plans too. */
function stepsDone(move: Move, zone: string): HandoverSheet['done'] {
  return move.signatures
    .filter((line) => line.action === 'sign' && standingOf(move.signatures, line.stepId).last === line)
    .map(({ title, by, at, actualMinutes, note }) => ({
      title,
      by,
      at: printInstantIn(zone, at),
      minutes: actualMinutes === null ? '' : `${actualMinutes} min`,
      note,
    }));
}
