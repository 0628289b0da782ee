import type { StepKind } from '../rules/stepTimes';
import type { StepMaker } from './input';
import type { RunbookStage } from './step';
import * as beside from './steps/beside';
import * as consents from './steps/consents';
import * as cross from './steps/cross';
import * as disk from './steps/disk';
import { fitParts } from './steps/fitPart';
import * as installerMedium from './steps/installerMedium';
import * as medium from './steps/medium';
import * as prepare from './steps/prepare';
import * as present from './steps/present';
import * as save from './steps/save';
import * as replace from './steps/replace';
import * as settle from './steps/settle';
import * as shim from './steps/shim';

type Entry = { readonly stage: RunbookStage; readonly make: StepMaker };

const inStage = (stage: RunbookStage) => (make: StepMaker) => ({ stage, make });
const saving = inStage('save');
const preparing = inStage('prepare');
const crossing = inStage('cross');
const settling = inStage('settle');
const handingOver = inStage('hand-over');

/** Every kind of step with its stage; adding one is adding its entry here. */
export const stepMakers: Readonly<Record<StepKind, Entry>> = {
  'forgotten-things': saving(save.forgotten),
  'full-image': saving(save.fullImage),
  copy: saving(save.copyAndVerify),
  verify: saving(save.verify),
  isolate: preparing(save.isolate),
  'end-date': preparing(save.endDate),
  'look-again': preparing(save.lookAgain),
  'record-licence': preparing(prepare.recordLicence),
  'record-recovery-key': preparing(prepare.recordRecoveryKey),
  'fit-part': preparing(fitParts),
  'fetch-image': preparing(medium.fetchImage),
  'write-stick': preparing(medium.writeStick),
  'try-live': preparing(prepare.tryLive),
  'carry-drivers': preparing(prepare.carryDrivers),
  'recovery-medium': preparing(present.recoveryMedium),
  'update-present': preparing(present.updatePresent),
  'fast-start-off': preparing(prepare.fastStartOff),
  'suspend-encryption': preparing(prepare.suspendEncryption),
  charger: preparing(prepare.charger),
  'other-disks': preparing(prepare.otherDisks),
  'identify-disk': preparing(prepare.identifyDisk),
  firmware: preparing(prepare.firmware),
  'start-upgrade': crossing(cross.startUpgrade),
  'start-from-stick': preparing(prepare.startFromStick),
  'erase-disk': crossing(cross.eraseDisk),
  'format-system': crossing(cross.formatSystem),
  install: crossing(cross.install),
  'stick-out': crossing(cross.stickOut),
  'first-start': settling(settle.firstStart),
  'other-disks-back': settling(settle.otherDisksBack),
  updates: settling(settle.updates),
  'optional-updates': settling(settle.optionalUpdates),
  drivers: settling(settle.drivers),
  activate: settling(settle.activate),
  firewall: settling(settle.firewall),
  restore: settling(settle.restore),
  applications: settling(settle.applications),
  encrypt: settling(settle.encrypt),
  habits: settling(settle.habits),
  'boot-order-back': settling(settle.bootOrderBack),
  'record-consents': preparing(consents.recordConsents),
  'pair-device': preparing(replace.pairDevice),
  'move-data': preparing(replace.moveData),
  'burn-disc': preparing(installerMedium.burnDisc),
  'make-installer-partition': preparing(installerMedium.makeInstallerPartition),
  'open-image': preparing(installerMedium.openImage),
  'write-shim': preparing(shim.writeShim),
  'fit-second-disk': preparing(beside.fitSecondDisk),
  'keep-table': preparing(disk.keepTable),
  'shrink-partition': preparing(disk.shrinkPartitions),
  'shrink-system': preparing(beside.shrinkSystem),
  'change-layout': crossing(disk.changeLayout),
  'convert-scheme': crossing(disk.convertScheme),
  'boot-files': crossing(disk.bootFiles),
  'switch-firmware': crossing(disk.switchFirmware),
  'start-from-disc': preparing(installerMedium.startFromDisc),
  'start-from-partition': preparing(installerMedium.startFromPartition),
  'start-installer': preparing(installerMedium.startInstaller),
  'start-by-key': preparing(shim.startByKey),
  'wipe-old-disk': crossing(replace.wipeOldDisk),
  'install-over': crossing(shim.installOver),
  'install-beside': crossing(beside.installBeside),
  'disc-out': crossing(installerMedium.discOut),
  'make-data-partition': settling(cross.makeDataPartition),
  'boot-menu': settling(beside.bootMenu),
  'shim-to-disk': preparing(shim.shimToDisk),
  'updates-by-hand': settling(shim.updatesByHand),
  'driver-patch': settling(shim.driverPatch),
  'isolate-old-system': settling(beside.isolateOldSystem),
  'resume-encryption': settling(settle.resumeEncryption),
  'installer-partition-away': settling(installerMedium.installerPartitionAway),
  disposal: settling(replace.disposal),
  reconcile: handingOver(settle.reconcile),
  'sign-off': handingOver(settle.signOff),
  // Planned when something goes wrong, by the room `trouble`: no plan begins with one.
  detour: settling(() => []),
};
