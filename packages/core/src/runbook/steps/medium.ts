import type { MediumWay } from '../../catalogue/catalogue';
import { commandText } from '../../catalogue/command';
import { releaseTitle } from '../../catalogue/find';
import { downloadMinutes, usualLine } from '../../media/line';
import { stickPlan } from '../../media/stick';
import { mediumWayNames } from '../../media/way';
import { writingMinutes } from '../../media/writing';
import { printBytes } from '../../quantity/bytes';
import { printCount } from '../../quantity/count';
import { addThreePoint, exactly, printMinutes } from '../../quantity/duration';
import type { StepInput, StepMaker } from '../input';
import { installerModes } from '../machineOf';
import { imageIsFetched, languageFor, stickAtHand, wayOf } from '../mediumOf';
import { startOn } from '../startOn';
import { languageName } from '../answers/names';

export const fetchImage: StepMaker = (input) => {
  const { release, line = null } = input;
  if (!release || !imageIsFetched(input)) return [];
  const minutes = downloadMinutes(release.imageBytes, line);
  return [
    {
      words: () => {
        const [first, ...others] = release.imageSources;
        const language = languageName(languageFor(input.facts, release));
        const sources = [
          first === undefined ? 'From the maker’s page' : `From ${first}`,
          others.length === 0 ? '' : `; if that does not load or breaks off: ${others.join(', ')}`,
        ].join('');
        return {
          title: `Fetch the image of ${releaseTitle(release)}, ${printBytes(release.imageBytes, 'decimal')}`,
          why: `${language}, ${release.wordBits}-bit. ${sources}. ${line === null ? `What the line of this site carries is not known: calculated with ${usualLine} Mbit/s` : `The line carries ${line} Mbit/s`}, about ${printMinutes(minutes.likely)}. On the bench computer, with ${printBytes(release.imageBytes, 'decimal')} free; not on the device that is moved.`,
          success: `The file has ${printCount(release.imageBytes, 'byte')}, and its SHA-256 begins with ${release.imageSha256.slice(0, 8)}${release.imageSigned ? '; the maker’s signature agrees' : ''}. Drop it on the media shelf: both are compared there.`,
          caution: 'One that differs is fetched again and never written.',
        };
      },
      extraWaiting: minutes,
      operators: () => [{ op: 'note', note: 'image' }],
      troubles: ['page-does-not-load', 'download-broken-off', 'checksum-differs'],
    },
  ];
};

/** What is typed for it on a computer with the present system’s family, each command with what it does. */
function commandsByHand(scheme: 'gpt' | 'mbr', { present, families = [], release }: StepInput): string {
  const family = families.find(({ id }) => id === (present ?? release)?.family);
  if (!family || family.stickCommands.length === 0) return '';
  const lines = family.stickCommands
    .filter(({ type }) => scheme === 'mbr' || !type.includes('{active}'))
    .map(({ does, type }) => `${does}: ${commandText(type, { scheme, active: '' })}`);
  return ` Typed on a computer with ${family.name}, one after the other: ${lines.join('; ')}.`;
}

/** How it is done, in each way. */
function wayWords(way: MediumWay, scheme: 'gpt' | 'mbr' | 'unknown', input: StepInput): string {
  switch (way) {
    case 'makers-tool':
      return 'With the maker’s own tool: it fetches, checks and writes in one go.';
    case 'image-writer':
      return 'With the image writer, block by block, from the image that was compared: it brings its own table, and afterwards the stick shows a small volume only.';
    case 'by-hand':
      return `By hand: a new ${scheme === 'mbr' ? 'MBR' : 'GPT'}, one partition${scheme === 'mbr' ? ', marked active' : ''}, FAT32${input.release?.volumeName ? `, its volume called “${input.release.volumeName}”` : ''}; then all files of the image, or of a disc that is at hand, hidden ones too.${commandsByHand(scheme === 'mbr' ? 'mbr' : 'gpt', input)}`;
  }
}

export const writeStick: StepMaker = (input) => {
  const { release, houseRules, waivers, line = null } = input;
  const on = startOn(input);
  if (!release || !on) return [];
  const taken = stickAtHand(input);
  if (taken) return [takeStick(input, taken)];
  const plan = stickPlan(on, houseRules);
  const { way, because } = wayOf(input, on);
  const writing = writingMinutes(release.imageBytes);
  return [
    {
      words: () => ({
        title: `Write ${releaseTitle(release)} to the installer stick`,
        why: [
          because === null
            ? ''
            : `Not with ${mediumWayNames[houseRules.stickTool === 'official' ? 'makers-tool' : houseRules.stickTool]}: ${because}.`,
          wayWords(way, plan.scheme, input),
          release.mediaRecipe,
          ...plan.sentences().slice(1),
          waivers.length === 0
            ? ''
            : 'Once it is written, it is kept on the media shelf as one that skips checks.',
        ]
          .filter((words) => words !== '')
          .join(' '),
        success: `${way === 'makers-tool' ? 'The tool says that it is done' : `The image’s SHA-256 begins with ${release.imageSha256.slice(0, 8)}`}, and reading the stick back agrees.`,
        caution:
          'Everything on the stick is erased. It is never the backup drive: list the drives before and after plugging it in, take the one that is new, and compare its size and serial number.',
      }),
      extraWaiting:
        way === 'makers-tool' ? addThreePoint(writing, downloadMinutes(release.imageBytes, line)) : writing,
      operators: () => [{ op: 'write-installer', kind: 'stick', modes: installerModes(input) }],
      troubles: ['checksum-differs', ...(way === 'makers-tool' ? (['page-does-not-load'] as const) : [])],
    },
  ];
};

/** A stick of the shelf that has the installer on it already. */
function takeStick(
  input: StepInput,
  { name, serial, holds }: NonNullable<ReturnType<typeof stickAtHand>>,
): ReturnType<StepMaker>[number] {
  return {
    words: () => ({
      title: `Take stick ${name} from the shelf: ${holds.title} is on it`,
      why: `Written ${holds.writtenOn} by ${holds.by}, ${holds.mode === 'both' ? 'for UEFI and legacy mode' : `for ${holds.mode === 'uefi' ? 'UEFI' : 'legacy'} mode`}; read back and compared. Nothing has to be written.`,
      success: `The label says ${name}${serial === '' ? '' : `, and its serial number ends with ${serial.slice(-4)}`}.`,
    }),
    handsOn: exactly(1),
    operators: () => [{ op: 'write-installer', kind: 'stick', modes: installerModes(input) }],
  };
}
