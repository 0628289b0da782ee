import { activationKinds, findRelease, releaseTitle, type Catalogue } from '@ulvane/core/catalogue';
import { printExactBytes } from '@ulvane/core/quantity';
import {
  describeFact,
  noSystem,
  opticalDrives,
  storageModes,
  licenceOwners,
  valueOf,
  type FactKey,
  type Facts,
} from '@ulvane/core/survey';
import type { Sizes } from '../../shell/useSizes';

type Option = { readonly value: string; readonly label: string };

/** How a fact is typed: picked from options, or written and then read. */
type FactInput = {
  readonly options?: readonly Option[];
  readonly hint?: string;
  readonly placeholder?: string;
  /** The written text as the fact's value; a string is returned when it cannot be read as one. */
  readonly read: (text: string) => { readonly value: unknown } | { readonly problem: string };
  readonly write: (facts: Facts) => string;
  /** What the text is taken for, shown while it is typed. */
  readonly reading?: (text: string) => string | undefined;
};

const same = (values: readonly string[], labels: Readonly<Record<string, string>> = {}): Option[] =>
  values.map((value) => ({ value, label: labels[value] ?? value }));

function plainText(key: FactKey): FactInput {
  return { read: (text) => ({ value: text.trim() }), write: (facts) => String(valueOf(facts, key) ?? '') };
}

function picked(key: FactKey, options: readonly Option[]): FactInput {
  return { ...plainText(key), options };
}

function wholeNumber(key: FactKey, hint: string): FactInput {
  return {
    hint,
    read: (text) =>
      /^\d+$/.test(text.trim()) ? { value: Number(text) } : { problem: 'Write a whole number.' },
    write: (facts) => String(valueOf(facts, key) ?? ''),
  };
}

function listOf(key: 'cpuFlags' | 'applications' | 'accounts', hint: string): FactInput {
  return {
    hint,
    read: (text) => ({
      value: text
        .split(',')
        .map((part) => part.trim())
        .filter((part) => part !== ''),
    }),
    write: (facts) => (valueOf(facts, key) ?? []).join(', '),
  };
}

const licensed = ({ releases }: Catalogue) =>
  releases.filter(({ activation }) => !activation.includes('none'));

/** Releases by their titles, as people write them, or by their ids. */
function readReleases(text: string, { releases }: Catalogue): ReturnType<FactInput['read']> {
  const ids: string[] = [];
  for (const part of text.split(',').map((one) => one.trim().toLowerCase())) {
    if (part === '') continue;
    const release = releases.find((one) => one.id === part || releaseTitle(one).toLowerCase() === part);
    if (!release) return { problem: `“${part}” is not a release of the catalogue.` };
    ids.push(release.id);
  }
  return { value: ids };
}

/** The input of each fact; disks have a dialog of their own. */
export function factInput(
  key: Exclude<FactKey, 'disks'>,
  catalogue: Catalogue,
  { parse, reading }: Sizes,
): FactInput {
  switch (key) {
    case 'chassis':
      return picked(key, same(['laptop', 'desktop']));
    case 'wordBits':
      return { ...wholeNumber(key, ''), options: same(['32', '64'], { '32': '32 bit', '64': '64 bit' }) };
    case 'firmwareMode':
      return picked(
        key,
        same(['uefi', 'legacy', 'uefi-with-legacy'], {
          uefi: 'UEFI',
          'uefi-with-legacy': 'UEFI with legacy compatibility on',
        }),
      );
    case 'secureBoot':
      return picked(key, same(['on', 'off', 'not-supported'], { 'not-supported': 'not supported' }));
    case 'tpm':
      return picked(
        key,
        same(['none', 'present-off', '1.2', '2.0'], {
          none: 'none',
          'present-off': 'present but off',
          '1.2': 'version 1.2',
          '2.0': 'version 2.0',
        }),
      );
    case 'charger':
      return picked(key, same(['connected', 'not-connected'], { 'not-connected': 'not connected' }));
    case 'activation':
      return picked(key, same(activationKinds));
    case 'diskEncryption':
    case 'fastStart':
      return picked(key, same(['on', 'off']));
    case 'presentRelease':
      return picked(key, [
        ...catalogue.releases.map((release) => ({ value: release.id, label: releaseTitle(release) })),
        { value: noSystem, label: 'No system on it' },
      ]);
    case 'presentLanguage':
      return { ...plainText(key), hint: 'Two letters, such as en or de.' };
    case 'memoryBytes':
      return {
        hint: 'As it is written on the module or the first page: 8 GiB, 3.8 GiB …',
        reading: (text) => reading(text, 'binary'),
        read: (text) => {
          const bytes = parse(text, 'binary');
          return bytes.ok
            ? { value: bytes.value }
            : { problem: bytes.problems[0]?.sentence ?? 'Not a size.' };
        },
        write: (facts) => {
          const bytes = valueOf(facts, 'memoryBytes');
          return bytes === undefined ? '' : printExactBytes(bytes, 'binary');
        },
      };
    case 'year':
      return wholeNumber(key, 'Four digits.');
    case 'cores':
      return wholeNumber(key, '');
    case 'clockMhz':
      return wholeNumber(key, 'In MHz.');
    case 'graphicsTier':
      return wholeNumber(
        key,
        '0 text only, 1 draws windows, 2 draws them smoothly, 3 drawing work, 4 workstation.',
      );
    case 'screenWidth':
    case 'screenHeight':
      return wholeNumber(key, 'In pixels.');
    case 'batteryPercent':
      return wholeNumber(key, 'In percent.');
    case 'cpuFlags':
      return listOf(key, 'Separated by commas.');
    case 'applications':
      return listOf(
        key,
        `Separated by commas. Known: ${catalogue.applications.map(({ name }) => name).join(', ')}.`,
      );
    case 'accounts':
      return listOf(key, 'Separated by commas.');
    case 'licencesHeld':
      return {
        hint: `Releases for which a licence is free, separated by commas, such as ${licensed(catalogue)
          .slice(0, 2)
          .map(releaseTitle)
          .join(', ')}.`,
        read: (text) => readReleases(text, catalogue),
        write: (facts) =>
          (valueOf(facts, key) ?? [])
            .map((id) => {
              const release = findRelease(catalogue, id);
              return release ? releaseTitle(release) : id;
            })
            .join(', '),
      };
    case 'attachedDevices':
      return {
        hint: 'Separated by semicolons; write “needs driver” behind a comma where one does.',
        read: (text) => ({
          value: text
            .split(';')
            .map((part) => part.split(',').map((word) => word.trim()))
            .filter(([name]) => name !== undefined && name !== '')
            .map(([name, driver]) => ({ name, ...(driver === 'needs driver' ? { needsDriver: true } : {}) })),
        }),
        write: (facts) =>
          (valueOf(facts, key) ?? [])
            .map(({ name, needsDriver }) => (needsDriver ? `${name}, needs driver` : name))
            .join('; '),
      };
    case 'opticalDrive':
      return picked(
        key,
        same(opticalDrives, { internal: 'in the device', external: 'on USB, at hand', none: 'none' }),
      );
    case 'bootFromFile':
      return picked(key, same(['yes', 'no']));
    case 'storageMode':
      return picked(
        key,
        storageModes.map((value) => ({ value, label: describeFact(key, value) })),
      );
    case 'licenceBelongsTo':
      return picked(
        key,
        licenceOwners.map((value) => ({ value, label: describeFact(key, value) })),
      );
    case 'graphicsChips':
      return {
        hint: 'One, as “name, driver”; several with semicolons.',
        read: (text) => ({
          value: text
            .split(';')
            .map((part) => part.split(',').map((word) => word.trim()))
            .filter(([name]) => name !== undefined && name !== '')
            .map(([name, driver]) => ({ name, ...(driver ? { driver } : {}) })),
        }),
        write: (facts) =>
          (valueOf(facts, key) ?? [])
            .map(({ name, driver }) => (driver === undefined ? name : `${name}, ${driver}`))
            .join('; '),
      };
    case 'networkAdapters':
      return {
        hint: 'One, as “name, wired or wireless, driver”; several with semicolons.',
        read: (text) => ({
          value: text
            .split(';')
            .map((part) => part.split(',').map((word) => word.trim()))
            .filter(([name]) => name !== undefined && name !== '')
            .map(([name, kind, driver]) => ({
              name,
              ...(kind ? { kind } : {}),
              ...(driver ? { driver } : {}),
            })),
        }),
        write: (facts) =>
          (valueOf(facts, 'networkAdapters') ?? [])
            .map(({ name, kind, driver }) =>
              [name, kind, driver].filter((part) => part !== undefined).join(', '),
            )
            .join('; '),
      };
    case 'maker':
    case 'model':
    case 'serial':
    case 'processorName':
    case 'recoveryKeyPlace':
      return plainText(key);
  }
}
