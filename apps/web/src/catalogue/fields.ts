import {
  activationKinds,
  encryptionMoments,
  installChoices,
  loaderSignatures,
  installerMediumIds,
  keepsakeKinds,
  limitedParts,
  pageKinds,
  pageMoments,
  releaseTitle,
  requirementKinds,
  type Catalogue,
  type CatalogueKind,
  type RequirementKind,
} from '@ulvane/core/catalogue';
import { boxUnits } from '@ulvane/core/quantity';
import { accountKinds } from '@ulvane/core/rules';

export type Option = { readonly value: string | number; readonly label: string };

type Common = {
  readonly key: string;
  readonly label: string;
  readonly hint?: string;
  readonly optional?: true;
};

/** A field that is written as text and then read. */
export type WrittenField = Common &
  (
    | { readonly kind: 'text' | 'number' | 'day' | 'words' }
    /** Bytes, written in the family that the trade uses for it. */
    | { readonly kind: 'size'; readonly family: 'binary' | 'decimal' }
  );

/** Any number of groups; with `variants` the first field says which others there are. */
export type RowsField = Common & {
  readonly kind: 'rows';
  readonly fields: readonly FieldSpec[];
  readonly variants?: Readonly<Record<string, readonly FieldSpec[]>>;
};

/** How one field of a catalogue entry is typed. The entry's own schema decides whether it fits. */
export type FieldSpec =
  | WrittenField
  | RowsField
  | (Common & { readonly kind: 'flag' })
  | (Common & { readonly kind: 'choice' | 'many'; readonly options: readonly Option[] })
  /** One group of fields. */
  | (Common & { readonly kind: 'group'; readonly fields: readonly FieldSpec[] });

const plain = (values: readonly string[]): Option[] =>
  values.map((value) => ({ value, label: value.replaceAll('-', ' ') }));

const waiver: FieldSpec = {
  kind: 'text',
  key: 'waiver',
  label: 'Can be waived; what that costs',
  hint: 'Empty: it cannot be waived.',
  optional: true,
};
const atLeast = (label: string): FieldSpec => ({ kind: 'number', key: 'minimum', label });

const requirementFields: Readonly<Record<RequirementKind, readonly FieldSpec[]>> = {
  'word-size': [
    {
      kind: 'choice',
      key: 'bits',
      label: 'Bits',
      options: [32, 64].map((value) => ({ value, label: `${value} bit` })),
    },
  ],
  cores: [atLeast('Cores'), waiver],
  clock: [{ kind: 'number', key: 'minimumMhz', label: 'MHz' }, waiver],
  'processor-features': [{ kind: 'words', key: 'flags', label: 'Features, by comma' }, waiver],
  memory: [{ kind: 'size', family: 'binary', key: 'minimumBytes', label: 'Memory' }, waiver],
  'system-disk': [{ kind: 'size', family: 'decimal', key: 'minimumBytes', label: 'Disk' }],
  'firmware-mode': [
    { kind: 'choice', key: 'mode', label: 'Mode', options: [{ value: 'uefi', label: 'UEFI' }] },
    waiver,
  ],
  'secure-boot': [waiver],
  tpm: [{ kind: 'choice', key: 'minimum', label: 'Version', options: plain(['1.2', '2.0']) }, waiver],
  graphics: [{ kind: 'number', key: 'minimumTier', label: 'Tier, 0 to 4' }, waiver],
  screen: [
    { kind: 'number', key: 'minimumWidth', label: 'Pixels wide' },
    { kind: 'number', key: 'minimumHeight', label: 'Pixels high' },
    waiver,
  ],
  'setup-network': [],
  'model-range': [
    { kind: 'text', key: 'maker', label: 'Maker' },
    { kind: 'number', key: 'fromYear', label: 'From year' },
  ],
};

/** Something of the owner's that is often forgotten, and how to get it out. */
function keepsField(label: string): FieldSpec {
  return {
    kind: 'rows',
    key: 'keeps',
    label,
    fields: [
      { kind: 'text', key: 'id', label: 'Id of the line' },
      { kind: 'text', key: 'name', label: 'Name' },
      { kind: 'choice', key: 'kind', label: 'Kind', options: plain(keepsakeKinds) },
      { kind: 'text', key: 'howToGetItOut', label: 'How to get it out' },
    ],
  };
}

/** The fields of each part of the catalogue, in the order in which they are typed. */
export function fieldsOf(kind: CatalogueKind, catalogue: Catalogue): readonly FieldSpec[] {
  const families = catalogue.families.map(({ id, name }) => ({ value: id, label: name }));
  const releases = catalogue.releases.map((release) => ({ value: release.id, label: releaseTitle(release) }));
  switch (kind) {
    case 'families':
      return [
        { kind: 'text', key: 'name', label: 'Name' },
        { kind: 'text', key: 'about', label: 'About' },
        { kind: 'text', key: 'lockedToMaker', label: 'Runs only on computers of', optional: true },
        keepsField('What it keeps of the owner’s in places of its own'),
        {
          kind: 'words',
          key: 'noise',
          label: 'Files that it makes by itself, as globs by comma',
        },
      ];
    case 'releases':
      return [
        { kind: 'choice', key: 'family', label: 'Family', options: families },
        { kind: 'text', key: 'name', label: 'Name' },
        { kind: 'number', key: 'version', label: 'Version, for telling newer from older' },
        { kind: 'text', key: 'edition', label: 'Edition' },
        {
          kind: 'choice',
          key: 'wordBits',
          label: 'Word size',
          options: [32, 64].map((value) => ({ value, label: `${value} bit` })),
        },
        { kind: 'words', key: 'languages', label: 'Languages, by comma' },
        { kind: 'day', key: 'fixesUntil', label: 'Security updates end', hint: 'Empty: no end.' },
        { kind: 'day', key: 'extendedUntil', label: 'Extended until', hint: 'Empty: none.' },
        {
          kind: 'rows',
          key: 'requirements',
          label: 'Requirements',
          fields: [{ kind: 'choice', key: 'kind', label: 'Requirement', options: plain(requirementKinds) }],
          variants: requirementFields,
        },
        { kind: 'many', key: 'upgradesFrom', label: 'May be upgraded from', options: releases },
        { kind: 'size', family: 'decimal', key: 'upgradeFreeBytes', label: 'Free for an upgrade' },
        { kind: 'size', family: 'decimal', key: 'systemBytes', label: 'Installed system' },
        { kind: 'size', family: 'decimal', key: 'imageBytes', label: 'Image' },
        { kind: 'size', family: 'decimal', key: 'largestImageFileBytes', label: 'Largest file in the image' },
        { kind: 'text', key: 'imageSha256', label: 'SHA-256 of the image' },
        { kind: 'many', key: 'firmwareModes', label: 'Starts in', options: plain(['uefi', 'legacy']) },
        { kind: 'choice', key: 'loader', label: 'Its loader is', options: plain(loaderSignatures) },
        {
          kind: 'many',
          key: 'bringings',
          label: 'Its installer comes by',
          options: plain(installerMediumIds),
        },
        { kind: 'text', key: 'mediaRecipe', label: 'How its media are made' },
        {
          kind: 'rows',
          key: 'installerPartitions',
          label: 'Partitions that its installer makes by itself',
          fields: [
            {
              kind: 'choice',
              key: 'purpose',
              label: 'Purpose',
              options: plain(['efi', 'reserved', 'recovery', 'boot']),
            },
            { kind: 'size', family: 'binary', key: 'sizeBytes', label: 'Size' },
          ],
        },
        { kind: 'many', key: 'activation', label: 'Activation', options: plain(activationKinds) },
        { kind: 'number', key: 'licencePrice', label: 'Price of a licence' },
        { kind: 'words', key: 'bundledDrivers', label: 'Network drivers that come with it, by comma' },
        {
          kind: 'group',
          key: 'installMinutes',
          label: 'Minutes of the install',
          fields: [
            { kind: 'number', key: 'low', label: 'Low' },
            { kind: 'number', key: 'likely', label: 'Likely' },
            { kind: 'number', key: 'high', label: 'High' },
          ],
        },
        { kind: 'number', key: 'restarts', label: 'Restarts' },
        {
          kind: 'flag',
          key: 'firstStartNetwork',
          label: 'The first start goes no further without a network',
        },
        { kind: 'text', key: 'systemFileSystem', label: 'File system of its system partition' },
        { kind: 'choice', key: 'sizeBoxUnit', label: 'Its size boxes count in', options: plain(boxUnits) },
        {
          kind: 'flag',
          key: 'sizeHoldsOwn',
          label: 'The size typed for the system holds the installer’s own partitions',
        },
        { kind: 'flag', key: 'mountPoints', label: 'Its partition page asks for mount points' },
        { kind: 'size', family: 'binary', key: 'loaderBytes', label: 'Its loader on the EFI partition' },
        { kind: 'many', key: 'accounts', label: 'Accounts that set-up offers', options: plain(accountKinds) },
        {
          kind: 'many',
          key: 'encryptsAt',
          label: 'Disk encryption can be switched on',
          options: plain(encryptionMoments),
        },
        {
          kind: 'choice',
          key: 'clock',
          label: 'It keeps in the firmware’s clock',
          options: [
            { value: 'local', label: 'local time' },
            { value: 'utc', label: 'UTC' },
          ],
        },
        {
          kind: 'rows',
          key: 'pages',
          label: 'Pages of its installer, in their order',
          fields: [
            { kind: 'choice', key: 'kind', label: 'It asks for', options: plain(pageKinds) },
            { kind: 'text', key: 'name', label: 'Name on the page' },
            { kind: 'choice', key: 'when', label: 'It comes', options: plain(pageMoments) },
            { kind: 'flag', key: 'needsNetwork', label: 'Needs the network' },
            { kind: 'flag', key: 'onUpgrade', label: 'Comes with an upgrade, too' },
            {
              kind: 'rows',
              key: 'choices',
              label: 'Choices on the page that asks how to install',
              fields: [
                { kind: 'choice', key: 'means', label: 'Means', options: plain(installChoices) },
                { kind: 'text', key: 'label', label: 'Label' },
              ],
            },
            {
              kind: 'choice',
              key: 'opensWith',
              label: 'Opens with',
              options: plain(installChoices),
              optional: true,
            },
          ],
        },
      ];
    case 'models':
      return [
        { kind: 'text', key: 'maker', label: 'Maker' },
        { kind: 'text', key: 'model', label: 'Model' },
        { kind: 'choice', key: 'chassis', label: 'Laptop or desktop', options: plain(['laptop', 'desktop']) },
        { kind: 'number', key: 'fromYear', label: 'From year' },
        { kind: 'number', key: 'toYear', label: 'To year' },
        { kind: 'text', key: 'bootMenuKey', label: 'Boot-menu key', hint: 'Empty: unknown.' },
        { kind: 'text', key: 'setupKey', label: 'Set-up key', hint: 'Empty: unknown.' },
        { kind: 'size', family: 'binary', key: 'memoryCeilingBytes', label: 'Memory at most' },
        { kind: 'number', key: 'diskBays', label: 'Places for disks' },
        { kind: 'flag', key: 'uefiCapable', label: 'Its firmware has UEFI mode' },
        { kind: 'flag', key: 'secureBootCapable', label: 'Its firmware has Secure Boot' },
        { kind: 'choice', key: 'tpm', label: 'Security chip', options: plain(['none', '1.2', '2.0']) },
        {
          kind: 'choice',
          key: 'lastRelease',
          label: 'Last release that its maker supports',
          options: releases,
          optional: true,
        },
        {
          kind: 'group',
          key: 'patch',
          label: 'Patched install, for vendor-locked computers',
          optional: true,
          fields: [
            { kind: 'many', key: 'releases', label: 'Releases beyond the ceiling', options: releases },
            { kind: 'text', key: 'startKey', label: 'Key at every start' },
            {
              kind: 'rows',
              key: 'limits',
              label: 'Known limits',
              fields: [
                { kind: 'choice', key: 'part', label: 'Part', options: plain(limitedParts) },
                { kind: 'text', key: 'sentence', label: 'What does not work' },
              ],
            },
          ],
        },
        { kind: 'words', key: 'quirks', label: 'Firmware quirks, a sentence each, by semicolon' },
      ];
    case 'applications':
      return [
        { kind: 'text', key: 'name', label: 'Name' },
        {
          kind: 'choice',
          key: 'lockedToFamily',
          label: 'Exists for one family only',
          options: families,
          optional: true,
        },
        {
          kind: 'group',
          key: 'equivalents',
          label: 'What opens the same files',
          fields: families.map(({ value, label }) => ({
            kind: 'text',
            key: String(value),
            label,
            optional: true,
          })),
        },
        {
          kind: 'rows',
          key: 'formats',
          label: 'Kinds of files that it keeps',
          fields: [
            { kind: 'text', key: 'name', label: 'Files' },
            { kind: 'many', key: 'survivesIn', label: 'Open whole in', options: families },
          ],
        },
        keepsField('What it keeps of the owner’s beside the documents'),
      ];
  }
}

type Draft = { readonly [key: string]: unknown };

/** The beginning of a new entry. */
export function blankEntry(kind: CatalogueKind, catalogue: Catalogue): Draft {
  const start = blankOf(fieldsOf(kind, catalogue));
  return { id: '', ...start };
}

/** What fields start with: the first option of a choice, nothing chosen of many. */
export function blankOf(fields: readonly FieldSpec[]): Draft {
  return Object.fromEntries(
    fields.flatMap((field): [string, unknown][] => {
      if (field.optional) return [];
      switch (field.kind) {
        case 'text':
          return [[field.key, field.hint?.startsWith('Empty') ? null : '']];
        case 'number':
        case 'size':
          return [[field.key, 0]];
        case 'day':
          return [[field.key, null]];
        case 'flag':
          return [[field.key, false]];
        case 'words':
        case 'many':
        case 'rows':
          return [[field.key, []]];
        case 'choice':
          return [[field.key, field.options[0]?.value ?? '']];
        case 'group':
          return [[field.key, blankOf(field.fields)]];
      }
    }),
  );
}
