const troubleIds = [
  'stick-not-offered',
  'set-up-loops',
  'black-screen',
  'no-disk-shown',
  'wrong-scheme',
  'does-not-start',
  'no-network',
  'key-refused',
  'recovery-key-asked',
  'backup-drive-fails',
  'checksum-differs',
  'cannot-shrink',
  'second-missing',
  'first-missing',
  'shim-not-chosen',
  'page-does-not-load',
  'download-broken-off',
  'power-lost',
  'battery-swollen',
] as const;
export type TroubleId = (typeof troubleIds)[number];

type Trouble = { readonly id: TroubleId; readonly sign: string; readonly remedy: string };

/** If it goes wrong: what is seen, and what to do. Steps name the ones that belong to them. */
const troubleOf: Readonly<Record<TroubleId, Omit<Trouble, 'id'>>> = {
  'stick-not-offered': {
    sign: 'The stick is not offered',
    remedy:
      'Try another port; check that its scheme and the firmware’s mode agree; look at Secure Boot; write it again.',
  },
  'set-up-loops': {
    sign: 'Set-up starts again from the beginning',
    remedy: 'The stick is still in. Take it out and start again: the installed system goes on.',
  },
  'black-screen': {
    sign: 'Black or torn screen',
    remedy: 'Start with safe graphics from the installer’s menu; fit the maker’s driver afterwards.',
  },
  'no-disk-shown': {
    sign: 'No disk is shown',
    remedy:
      'Look at the storage-controller mode in the firmware set-up, note it before changing it, or load the controller’s driver from a stick.',
  },
  'wrong-scheme': {
    sign: '“Cannot install on this scheme”',
    remedy:
      'Firmware mode and partition scheme disagree. Restart from the stick in the other mode, or stop and plan the conversion on Prepare, under Disk; do not erase to get past it.',
  },
  'does-not-start': {
    sign: 'It does not start after the conversion',
    remedy:
      'One of three is missing: the scheme, the boot files, the firmware’s mode. Start the rescue stick in the mode that the scheme needs, make the boot files again, look at the mode. If all three are right, write the undo capsule back and switch the mode back.',
  },
  'no-network': {
    sign: 'No network',
    remedy: 'Load the driver from the stick that was carried along; go on offline until then.',
  },
  'key-refused': {
    sign: 'The licence key is refused',
    remedy: 'The edition does not fit. Compare it with what was recorded; do not type keys at random.',
  },
  'recovery-key-asked': {
    sign: 'The recovery key is demanded',
    remedy:
      'Expected after a firmware change: type the recorded key, then suspend encryption before the next change.',
  },
  'backup-drive-fails': {
    sign: 'The backup drive fails',
    remedy: 'Stop. Nothing has been erased yet. Take another destination, copy and verify again.',
  },
  'checksum-differs': {
    sign: 'A checksum differs',
    remedy:
      'Copy that file again and compare again. If it differs twice, the drive or the source is failing.',
  },
  'cannot-shrink': {
    sign: 'The free space cannot be shrunk that far',
    remedy:
      'A block that cannot be moved is in the way: page file and hibernation off, restart, shrink, and on again. Do not force it.',
  },
  'second-missing': {
    sign: 'The second system is missing from the boot menu',
    remedy: 'Start it once from the firmware’s own list, then rebuild its boot menu from inside.',
  },
  'first-missing': {
    sign: 'The first system is missing from the boot menu',
    remedy: 'It is still on its disk. Look for other systems in the boot menu’s tool and rebuild the menu.',
  },
  'shim-not-chosen': {
    sign: 'The shim is not chosen at the start',
    remedy:
      'Hold the key from the moment of power-on; the prohibitory symbol means that the plain loader started.',
  },
  'page-does-not-load': {
    sign: 'The page with the image does not load',
    remedy:
      'Take the second source, or another computer or line; the checksum tells whether it is the same image. A page that asks for a newer browser is opened on the bench computer.',
  },
  'download-broken-off': {
    sign: 'The download breaks off',
    remedy:
      'Go on where it stopped, if the source lets you; else take the second source. Compare the bytes first, then the checksum: a file that is too short is never written.',
  },
  'power-lost': {
    sign: 'Power is lost in the middle',
    remedy:
      'Above the Line: start the step again. While the disk is written: start from the stick and lay it out anew; the copies are what counts now.',
  },
  'battery-swollen': {
    sign: 'The battery is swollen, hot or smells',
    remedy:
      'Stop, unplug, do not open, do not press. Put it where nothing can catch fire and call a qualified person.',
  },
};

export const troubles: readonly Trouble[] = troubleIds.map((id) => ({ id, ...troubleOf[id] }));
