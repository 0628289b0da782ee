import { copiesOf, countingCopies, weakestProof } from '../backup/copies/copies';
import { countGrades, type Proof } from '../backup/copies/grade';
import { printCount } from '../quantity/count';
import { isSameDevice } from '../backup/destinations/sameDrive';
import { scopeNotices } from '../backup/scope/scopeNotices';
import type { FailedCheck } from '../backup/copies/check';
import type { Copy } from '../backup/scope/dataSet';
import type { InstallerMediumId } from '../catalogue/catalogue';
import type { RouteDefinition } from '../route/definition';
import { whyNotTold } from '../disk/marks';
import { diskBytes, diskMark } from '../survey/disk';
import { encryptedWhen, unlockedByPresent } from './machineOf';
import { readLicence } from '../route/licence';
import { diskToWrite } from './diskToWrite';
import type { DiskWorkPlan } from './diskWork';
import { isEmptyDevice, valueOf } from '../survey/facts';
import { printInstantIn } from '../quantity/localTime';
import { printBytes } from '../quantity/bytes';
import type { RunbookInput } from './input';
import { gateIds, type GateId } from './step';

export type GateFinding = {
  readonly state: 'green' | 'closed';
  readonly sentence: string;
  /** Each thing that closes it; an overrule covers those that it was given for. Empty when green. */
  readonly reasons: readonly string[];
  /** How it was found to be so; null while it is closed. */
  readonly proof: Proof | null;
};

export type GateContext = RunbookInput & {
  readonly copies: readonly Copy[];
  readonly failedChecks: readonly FailedCheck[];
  /** Titles of steps above the Line that nobody has signed. */
  readonly unsignedAbove: readonly string[];
  /** Why the disks that are known are not those of the device any more; undefined where they are. */
  readonly diskFittedSince?: string | undefined;
  /** Sentences saying how the plan differs from what would be planned now. */
  readonly staleBecause: readonly string[];
};

type Gate = {
  readonly id: GateId;
  readonly title: string;
  readonly concerns: (
    route: RouteDefinition,
    installerMedium: InstallerMediumId,
    diskWork: DiskWorkPlan | undefined,
    encrypted: ReturnType<typeof encryptedWhen>,
  ) => boolean;
  readonly judge: (context: GateContext) => GateFinding;
};

const green = (proof: Proof, sentence: string): GateFinding => ({
  state: 'green',
  sentence,
  reasons: [],
  proof,
});
const closed = (sentence: string, reasons: readonly string[] = [sentence]): GateFinding => ({
  state: 'closed',
  sentence,
  reasons,
  proof: null,
});
const always = () => true;
const startsFromStick = (route: RouteDefinition, installerMedium: InstallerMediumId) =>
  installerMedium === 'stick' &&
  (route.steps.includes('start-from-stick') || route.steps.includes('start-by-key'));

/** Every condition that hangs on the Line, in no order: `gateIds` gives it. A gate without its entry does not compile. */
const gateOf: Readonly<Record<GateId, Omit<Gate, 'id'>>> = {
  'scope-stated': {
    title: 'What is saved is stated',
    concerns: always,
    judge: ({ dataSets, preparation, facts }) => {
      const blocking = scopeNotices(dataSets, facts).filter(({ blocks }) => blocks);
      if (blocking.length > 0) {
        const reasons = blocking.map(({ sentence }) => sentence);
        return closed(reasons.join(' '), reasons);
      }
      if (dataSets.length > 0) return green('stated', `${printCount(dataSets.length, 'data set')} listed.`);
      return preparation.nothingToSave
        ? green(
            'stated',
            `Nothing to save, says ${preparation.nothingToSave.by}: ${preparation.nothingToSave.statement}`,
          )
        : closed(
            isEmptyDevice(facts)
              ? 'No system is on the device: state on Save that there is nothing to save, as the disk is new.'
              : 'No data set is listed. List them on Save, or state there that there is nothing to save.',
          );
    },
  },
  'copies-verified': {
    title: 'Copies verified',
    concerns: always,
    judge: ({ dataSets, destinations, copies, failedChecks, route, houseRules }) => {
      const name = (id: string) => dataSets.find((dataSet) => dataSet.id === id)?.name ?? id;
      const on = (id: string) => destinations.find((destination) => destination.id === id)?.name ?? id;
      if (failedChecks.length > 0)
        return closed(
          `${failedChecks
            .map(
              ({ dataSetId, destinationId, count, files: [first] }) =>
                `${name(dataSetId)} on ${on(destinationId)}: ${count === 1 ? '1 file differs' : `${count.toLocaleString('en')} files differ`}, first ${first?.path ?? ''}`,
            )
            .join('; ')}. Copy them again, and compare on Save.`,
          failedChecks.map(
            ({ dataSetId, destinationId, count, at }) =>
              `${dataSetId} on ${destinationId}: ${count} differ, compared ${at}`,
          ),
        );
      const status = copiesOf(dataSets, destinations, copies, route.writesOver, houseRules);
      const short = status.flatMap(({ dataSetId, short: lack }) =>
        lack === null ? [] : [{ dataSetId, lack }],
      );
      if (dataSets.length === 0) return green('stated', 'There is nothing to copy.');
      if (short.length === 0)
        return green(
          weakestProof(status),
          `Every data set has the copies it needs: ${countGrades(countingCopies(copies, status))}.`,
        );
      return closed(
        `Short of copies: ${short.map(({ dataSetId, lack }) => `${name(dataSetId)} (${lack})`).join(', ')}. Compare them on Save.`,
        short.map(({ dataSetId, lack }) => `${dataSetId}: ${lack}`),
      );
    },
  },
  'stick-apart': {
    title: 'Stick and backup are two devices',
    concerns: startsFromStick,
    judge: ({ preparation, destinations }) => {
      if (!preparation.stick)
        return closed('The installer stick is not named: name it on Prepare, with its serial.');
      const { stick } = preparation;
      const { name } = stick;
      const same = destinations.find((destination) => isSameDevice(stick, destination));
      return same
        ? closed(`Stick ${name} is also the backup ${same.name}: installing would erase the backup.`)
        : green('measured', `Stick ${name} holds no backup.`);
    },
  },
  'recovery-key': {
    title: 'Recovery key kept',
    concerns: always,
    judge: (given) => {
      const { facts, preparation } = given;
      if (preparation.recoveryKey) return green('stated', `Kept: ${preparation.recoveryKey.keptWhere}.`);
      const encryption = valueOf(facts, 'diskEncryption');
      const beside = unlockedByPresent(given).map(diskMark);
      if (beside.length > 0)
        return closed(
          `${beside.join(', ')} ${beside.length === 1 ? 'is' : 'are'} encrypted, and the system that unlocks ${beside.length === 1 ? 'it' : 'them'} goes: note on Prepare where the key is kept.`,
        );
      if (encryption === 'off') return green('measured', 'The disk is not encrypted.');
      return closed(
        encryption === 'on'
          ? 'The disk is encrypted and where its recovery key is kept is not noted on Prepare.'
          : 'Whether the disk is encrypted is unknown: find out on Survey, or note the key’s place on Prepare.',
      );
    },
  },
  passphrase: {
    title: 'Passphrase kept',
    // Where it is switched on afterwards, it stands before that step.
    concerns: (_route, _installerMedium, _diskWork, encrypted) => encrypted === 'during-setup',
    judge: ({ preparation }) =>
      preparation.passphrase
        ? green('stated', `Kept: ${preparation.passphrase.keptWhere}.`)
        : closed(
            'Whoever loses the passphrase loses every file: put it into the vault, and note that on Prepare, before anything is encrypted.',
          ),
  },
  licence: {
    title: 'Licence fits and is noted',
    concerns: (route) => route.hasTarget,
    judge: ({ release, preparation, present, facts }) => {
      if (!release || release.activation.every((kind) => kind === 'none'))
        return green('measured', 'The system needs no licence.');
      // A wrong edition is found here, and not on the last page of set-up.
      const reading = readLicence(release, present, facts);
      if (reading.state === 'unfit')
        return closed(
          `${reading.sentence} Get one that fits, and note it on Survey among the licences at hand; or choose an edition that the present one activates.`,
        );
      if (!preparation.licence) return closed('How the licence is held is not noted: note it on Prepare.');
      const { kind, keptWhere } = preparation.licence;
      return release.activation.includes(kind)
        ? green('stated', `${kind}, ${keptWhere}.`)
        : closed(
            `A licence that is ${kind} does not activate the target; it takes ${release.activation.join(' or ')}.`,
          );
    },
  },
  'disk-identified': {
    title: 'Disk identified by serial number and size',
    concerns: (route, _installerMedium, diskWork) => route.writesOver !== 'nothing' || diskWork !== undefined,
    judge: (given) => {
      const { preparation, route } = given;
      if (given.diskFittedSince !== undefined) return closed(given.diskFittedSince);
      const disk = diskToWrite(given);
      if (!disk)
        return closed(
          route.writesOver === 'second-disk'
            ? 'Which disk is to be written cannot be told: fit the second disk, run the survey again, and mark the system partition.'
            : 'Which disk is to be written cannot be told from the survey: mark the system partition among the disks.',
        );
      const why = whyNotTold(disk, preparation.diskMarks);
      if (why !== undefined) return closed(why);
      return green('measured', `${diskMark(disk)}, ${printBytes(diskBytes(disk), 'decimal')}.`);
    },
  },
  'capsule-kept': {
    title: 'Undo capsule kept',
    concerns: (_route, _installerMedium, diskWork) => diskWork?.work.kind === 'convert',
    judge: ({ diskPlan, capsules = [], houseRules }) => {
      const plan = diskPlan?.ok ? diskPlan.value : undefined;
      const kept = capsules.findLast(({ disk }) => disk === plan?.disk.name);
      if (!kept)
        return closed(
          'The old sectors are not kept: drop the disk’s first and last sectors on Disk, and keep the capsule with this move.',
        );
      return plan?.work.kind === 'convert' && kept.target !== plan.work.target
        ? closed('The capsule that is kept is of the other direction: make it anew on Disk.')
        : green('measured', `Kept by ${kept.by}, ${printInstantIn(houseRules.timeZone, kept.at)}.`);
    },
  },
  power: {
    title: 'On its charger',
    concerns: always,
    judge: ({ facts, preparation }) => {
      if (valueOf(facts, 'chassis') === 'desktop') return green('measured', 'A desktop, on the mains.');
      return preparation.power
        ? green('stated', `Seen by ${preparation.power.by}.`)
        : closed('Look at the charging light, and confirm it on Prepare.');
    },
  },
  'network-driver': {
    title: 'Network driver at hand',
    concerns: (route) => route.hasTarget,
    judge: ({ facts, release, preparation }) => {
      const adapters = valueOf(facts, 'networkAdapters');
      const own = adapters?.find(
        ({ driver }) => driver !== undefined && release?.bundledDrivers.includes(driver),
      );
      if (own) return green('measured', `The driver of ${own.name} comes with the release.`);
      if (preparation.networkDriver) return green('stated', `${preparation.networkDriver.how}.`);
      return closed(
        adapters === undefined
          ? 'The network adapter is unknown: say on Prepare how the network will come up.'
          : 'No driver for its adapter comes with the release: carry one over, and say so on Prepare.',
      );
    },
  },
  consents: {
    title: 'Consent in writing',
    concerns: (route) => route.consent.length > 0,
    judge: ({ route, preparation }) => {
      const papers = { owner: preparation.ownerConsent, organisation: preparation.organisationConsent };
      const missing = route.consent.filter((who) => papers[who] === null);
      return missing.length === 0
        ? green(
            'stated',
            `Agreed in writing: ${route.consent.map((who) => `${papers[who]?.signer ?? ''} for the ${who}`).join(', ')}.`,
          )
        : closed(
            `The ${missing.join(' and the ')} ${missing.length === 1 ? 'has' : 'have'} not agreed in writing: note signer and place on Prepare.`,
            missing.map((who) => `${who} has not agreed`),
          );
    },
  },
  'data-moved': {
    title: 'The data is on the new device',
    concerns: (route) => route.id === 'replace',
    judge: ({ preparation: { replacement, dataMoved } }) => {
      if (!replacement) return closed('The new device is not named: note it on Prepare, with its serial.');
      return dataMoved
        ? green(
            'stated',
            `On ${replacement.maker} ${replacement.model}, ${replacement.serial}: ${dataMoved.statement}`,
          )
        : closed('Nobody has stated yet that the owner’s data is on the new device, compared by checksum.');
    },
  },
  'steps-above-signed': {
    title: 'Steps above are signed',
    concerns: always,
    judge: ({ unsignedAbove }) =>
      unsignedAbove.length === 0
        ? green('stated', 'Every step above the Line is signed.')
        : closed(
            `Not signed: ${unsignedAbove.slice(0, 3).join(', ')}${unsignedAbove.length > 3 ? ` and ${unsignedAbove.length - 3} more` : ''}.`,
            unsignedAbove,
          ),
  },
  'plan-current': {
    title: 'The plan is current',
    concerns: always,
    judge: ({ staleBecause }) =>
      staleBecause.length === 0
        ? green('measured', 'Nothing has changed since it was made.')
        : closed(`The plan is stale: ${staleBecause[0] ?? ''} Make it again.`, staleBecause),
  },
};

export const gates: readonly Gate[] = gateIds.map((id) => ({ id, ...gateOf[id] }));

/** The gates that the Line of a plan carries. */
export function gatesFor(input: RunbookInput, diskWork: DiskWorkPlan | undefined): readonly GateId[] {
  const { route, installerMedium } = input;
  const encrypted = encryptedWhen(input);
  return gates
    .filter(({ concerns }) => concerns(route, installerMedium, diskWork, encrypted))
    .map(({ id }) => id);
}

/** What a barrier asks of copies: of each data set that may be gone one that counts, compared as the house compares what is erased. */
export function barrierContext(context: GateContext, dataSetIds: readonly string[]): GateContext {
  return {
    ...context,
    dataSets: context.dataSets.filter(({ id }) => dataSetIds.includes(id)),
    failedChecks: context.failedChecks.filter(({ dataSetId }) => dataSetIds.includes(dataSetId)),
    route: { ...context.route, writesOver: 'whole-disk' },
    houseRules: { ...context.houseRules, copiesBeforeLine: 1 },
  };
}
