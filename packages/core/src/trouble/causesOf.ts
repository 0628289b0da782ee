import type { TroubleId } from '../runbook/troubles';
import type { Cause, CausesOf, TroubleContext } from './cause';
import * as disks from './causes/disks';
import * as drivers from './causes/drivers';
import * as files from './causes/files';
import * as keys from './causes/keys';
import * as loaders from './causes/loaders';
import * as medium from './causes/medium';
import * as network from './causes/network';
import * as screen from './causes/screen';
import * as volumes from './causes/volumes';

/** The causes behind each sign; a danger has none: one stops, and calls. */
const causes: Readonly<Record<TroubleId, CausesOf | { readonly stop: string }>> = {
  'stick-not-offered': medium.stickNotOffered,
  'restarts-before-installer': screen.restartsBeforeInstaller,
  'set-up-loops': medium.setUpLoops,
  'black-screen': screen.blackScreen,
  'no-disk-shown': disks.noDiskShown,
  'wrong-scheme': disks.wrongScheme,
  'disc-not-read': medium.discNotRead,
  'does-not-start': disks.doesNotStart,
  'page-does-not-load': network.pageDoesNotLoad,
  'download-broken-off': network.downloadBrokenOff,
  'no-network': network.noNetwork,
  'key-refused': keys.keyRefused,
  'recovery-key-asked': keys.recoveryKeyAsked,
  'another-disk-encrypted': keys.anotherDiskEncrypted,
  'disk-asks-password': disks.diskAsksPassword,
  'volume-read-only': volumes.volumeReadOnly,
  'cannot-shrink': volumes.cannotShrink,
  'second-missing': loaders.secondMissing,
  'first-missing': loaders.firstMissing,
  'loader-prompt': loaders.loaderPrompt,
  'shim-not-chosen': loaders.shimNotChosen,
  'device-unknown': drivers.deviceUnknown,
  'patch-undone': drivers.patchUndone,
  'update-never-ends': drivers.updateNeverEnds,
  'backup-drive-fails': files.backupDriveFails,
  'checksum-differs': files.checksumDiffers,
  'signatures-refused': network.signaturesRefused,
  'power-lost': files.powerLost,
  'battery-swollen': {
    stop: 'Stop. Unplug the device, do not open it, do not press on it, do not charge it. Put it where nothing can catch fire, keep people away, and call a qualified person. The maker’s manual and the local rules come before this page.',
  },
};

/** What to do at once where a sign is a danger; null where it has causes. */
export function dangerOf(id: TroubleId): string | null {
  const of = causes[id];
  return typeof of === 'function' ? null : of.stop;
}

/** How often a cause was the right one in this house, by its id. */
export type CauseCounts = Readonly<Partial<Record<string, number>>>;

/**
 * The causes of a sign in order of likelihood for this device: what the state says first, then how often each was
 * found here; excluded ones last.
 * @param counts of this trouble; empty where nobody has had it yet
 */
export function causesOf(id: TroubleId, context: TroubleContext, counts: CauseCounts = {}): readonly Cause[] {
  const of = causes[id];
  if (typeof of !== 'function') return [];
  const total = Object.values(counts).reduce<number>((sum, one) => sum + (one ?? 0), 0);
  const rank = ({ id: cause, likelihood }: Cause) =>
    // Earlier cases weigh as much as two grades of likelihood when all of them were this one.
    likelihood === 0 ? -1 : likelihood + (total === 0 ? 0 : (2 * (counts[cause] ?? 0)) / total);
  return of(context).toSorted((a, b) => rank(b) - rank(a));
}
