import type { CausesOf, TroubleContext } from '../cause';
import { act } from '../stops';

/** Signs of copies and drives, and of power. */

/** Destinations of the plan that a step copies to or restores from. */
function destinationOf({ step, input }: TroubleContext) {
  const id = step.id.split(':')[1];
  return input.destinations.find((destination) => destination.id === id);
}

export const backupDriveFails: CausesOf = (context) => {
  const destination = destinationOf(context);
  const name = destination?.name ?? 'the backup drive';
  const below = context.step.stage === 'settle';
  return [
    {
      id: 'drive-cable',
      title: `Cable, port or power of ${name}`,
      likelihood: 3,
      because: 'It was there a moment ago, and went away while it was at work.',
      check: { what: 'Does it come back on another cable, straight at the device?', minutes: 2 },
      remedy: {
        title: 'Take another cable and port',
        stops: [
          act(
            `Connect ${name} by another cable, straight at the device`,
            'What was copied is compared anyway; a copy that broke off does not count.',
            'It is listed by serial number and size.',
            2,
          ),
        ],
      },
    },
    {
      id: 'drive-failing',
      title: `${name} itself is failing`,
      likelihood: 2,
      because: below
        ? 'The originals were erased: nothing more is written to this drive.'
        : 'Nothing has been erased yet: another drive can take its place.',
      check: { what: 'Does it click, or does its own health report name errors?', minutes: 3 },
      remedy: below
        ? 'Stop, and write nothing to it. End this detour with that note: restore from the other copy, as Save lists them, and have a qualified person look at this drive.'
        : 'End this detour with that note. On Save take another destination, copy and compare again; no gate opens without.',
    },
  ];
};

export const checksumDiffers: CausesOf = (context) => {
  const destination = destinationOf(context);
  const fetched =
    context.step.kind === 'fetch-image' ||
    context.step.kind === 'write-stick' ||
    context.step.kind === 'burn-disc';
  if (fetched)
    return [
      {
        id: 'image-incomplete',
        title: 'The image is not whole',
        likelihood: 4,
        because: 'A download that broke off has fewer bytes, and another checksum.',
        check: {
          what: `Compare its bytes with ${(context.input.release?.imageBytes ?? 0).toLocaleString('en')}.`,
          minutes: 1,
        },
        remedy: {
          title: 'Fetch it again',
          stops: [
            act(
              'Delete the file, and fetch the image again',
              'A file that differs is never written to a medium.',
              'Its SHA-256 is the published one.',
              2,
              { waiting: 10 },
            ),
          ],
        },
      },
      {
        id: 'other-image',
        title: 'It is another build of the image',
        likelihood: 2,
        because: 'Makers replace images without a new name.',
        check: { what: 'Does the maker’s page show another checksum than the catalogue?', minutes: 2 },
        remedy:
          'Do not use it until the maker’s own page confirms its checksum. End this detour with that note, and have a lead correct the catalogue.',
      },
    ];
  return [
    {
      id: 'file-in-use',
      title: 'A file was changed while it was copied',
      likelihood: 3,
      because: 'Mail and notes are written all the time while their programs are open.',
      check: { what: 'Are the files that differ those of an open program?', minutes: 1 },
      remedy: {
        title: 'Close the programs, copy these files again',
        stops: [
          act(
            'Close all programs, copy the files that differ again',
            'The list on Save names them.',
            'They are copied without an error.',
            3,
            { waiting: 2 },
          ),
        ],
      },
    },
    {
      id: 'copy-damaged',
      title: `The copy${destination ? ` on ${destination.name}` : ''} is damaged`,
      likelihood: 2,
      because: 'Then the same files differ again after they were copied once more.',
      check: { what: 'Copy one of them again: does it still differ?', minutes: 3 },
      remedy:
        'The drive or the source is failing. End this detour with that note: take another destination on Save, and write nothing more to this one.',
    },
  ];
};

export const powerLost: CausesOf = (context) => {
  const { step, input } = context;
  const writes = step.destructive || step.barrier !== undefined || step.stage === 'cross';
  const isTable = [
    'change-layout',
    'convert-scheme',
    'shrink-partition',
    'shrink-system',
    'make-data-partition',
    'make-installer-partition',
    'boot-files',
    'switch-firmware',
  ].includes(step.kind);
  const capsule = (input.capsules ?? []).length > 0 || context.machine.disks.some((disk) => disk.capsule);
  return [
    {
      id: 'nothing-written-yet',
      title: 'Nothing had been written yet',
      likelihood: writes ? 2 : 4,
      because: writes
        ? 'Between the start of this step and its first write are some minutes.'
        : 'This step changes nothing on the disk that could be half done.',
      check: { what: 'Does the device start as it did before the step?', minutes: 3 },
      remedy: {
        title: 'Begin the step again',
        stops: [
          act(
            'On the charger, start the device as before the step',
            'The step is done from its beginning.',
            'It is where the step begins.',
            4,
            {
              operators: [{ op: 'connect-mains' }],
            },
          ),
        ],
      },
    },
    {
      id: 'table-half-written',
      title: 'The table of the disk is half written',
      likelihood: isTable ? 3 : 0,
      because: isTable
        ? capsule
          ? 'The old sectors are kept: they are the way back.'
          : 'This step writes the table.'
        : 'This step writes no table.',
      check: { what: 'Start the rescue stick: does it list the partitions as before?', minutes: 5 },
      remedy: capsule
        ? {
            title: 'Write the old sectors back',
            stops: [
              act(
                'Start the rescue stick, and compare the disk’s serial number and size',
                'The old sectors belong to this disk only.',
                'Both agree with the capsule.',
                4,
                { operators: [{ op: 'connect-mains' }] },
              ),
              act(
                'Write the undo capsule back, and read it again',
                'It puts every sector back that the step changes.',
                'What was read is what was written; the old partitions are listed.',
                4,
                {
                  caution:
                    'Only these sectors, only on this disk. A qualified person beside you is worth the wait.',
                },
              ),
            ],
          }
        : 'Write nothing more to this disk. End this detour with that note, restore from the copies as Save lists them, and plan again.',
    },
    {
      id: 'files-half-written',
      title: 'Files of the new system are half written',
      likelihood: step.stage === 'cross' ? 3 : step.stage === 'settle' ? 1 : 0,
      because:
        step.stage === 'cross'
          ? 'The copies are what counts now: the disk is laid out anew.'
          : step.stage === 'settle'
            ? 'The system repairs itself at its next start, or says what it cannot.'
            : 'The new system is not being written in this step.',
      check: { what: 'Does the installer, or the system, say that something is incomplete?', minutes: 4 },
      remedy: {
        title: 'Begin this step again from its first page',
        stops: [
          act(
            'On the charger, begin the step again from its first page',
            'Partitions that the broken attempt left are deleted first; those in the frame “never format” are not.',
            'The page is as the answer sheet shows it.',
            6,
            {
              operators: [{ op: 'connect-mains' }],
              caution: 'Serial number and size of the disk once more.',
            },
          ),
        ],
      },
    },
  ];
};
