import {
  activationKinds,
  encryptionMoments,
  installChoices,
  installerMediumIds,
  mediumWays,
  loaderSignatures,
  pageKinds,
  pageMoments,
  requirementKinds,
  setUpSkips,
  type RequirementKind,
} from '@ulvane/core/catalogue';
import { boxUnits } from '@ulvane/core/quantity';
import { accountKinds, upkeeps } from '@ulvane/core/rules';
import { commandRows, plain, type FieldSpec, type Option } from './fieldSpec';

const waiver: FieldSpec = {
  kind: 'text',
  key: 'waiver',
  label: 'Can be waived; what that costs',
  hint: 'Empty: it cannot be waived.',
  optional: true,
};
const skip: FieldSpec = {
  kind: 'text',
  key: 'skip',
  label: 'How the installer is told to skip it',
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
  cores: [atLeast('Cores'), waiver, skip],
  clock: [{ kind: 'number', key: 'minimumMhz', label: 'MHz' }, waiver, skip],
  'processor-features': [{ kind: 'words', key: 'flags', label: 'Features, by comma' }, waiver, skip],
  memory: [{ kind: 'size', family: 'binary', key: 'minimumBytes', label: 'Memory' }, waiver, skip],
  'system-disk': [{ kind: 'size', family: 'decimal', key: 'minimumBytes', label: 'Disk' }],
  'firmware-mode': [
    { kind: 'choice', key: 'mode', label: 'Mode', options: [{ value: 'uefi', label: 'UEFI' }] },
    waiver,
    skip,
  ],
  'secure-boot': [waiver, skip],
  tpm: [{ kind: 'choice', key: 'minimum', label: 'Version', options: plain(['1.2', '2.0']) }, waiver, skip],
  graphics: [{ kind: 'number', key: 'minimumTier', label: 'Tier, 0 to 4' }, waiver, skip],
  screen: [
    { kind: 'number', key: 'minimumWidth', label: 'Pixels wide' },
    { kind: 'number', key: 'minimumHeight', label: 'Pixels high' },
    waiver,
    skip,
  ],
  'setup-network': [],
  'model-range': [
    { kind: 'text', key: 'maker', label: 'Maker' },
    { kind: 'number', key: 'fromYear', label: 'From year' },
  ],
};

/** The fields of a release, in the order in which they are typed. */
export function releaseFields(
  families: readonly Option[],
  releases: readonly Option[],
): readonly FieldSpec[] {
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
    { kind: 'words', key: 'imageSources', label: 'Where its image is fetched, by comma' },
    { kind: 'flag', key: 'imageSigned', label: 'Its maker publishes a signature of the image' },
    { kind: 'many', key: 'mediumWays', label: 'A stick of it is made with', options: plain(mediumWays) },
    { kind: 'text', key: 'mediaRecipe', label: 'How its media are made' },
    { kind: 'text', key: 'volumeName', label: 'Name of the volume with its installer' },
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
    { kind: 'choice', key: 'upkeep', label: 'Keeping it up is for', options: plain(upkeeps) },
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
    { kind: 'number', key: 'goBackDays', label: 'Days in which an upgrade to it can be taken back' },
    {
      kind: 'flag',
      key: 'presentUpdatedFirst',
      label: 'A system is brought up to date before it is upgraded to this one',
    },
    {
      kind: 'size',
      family: 'decimal',
      key: 'recoveryMediumBytes',
      label: 'Recovery medium that it makes of itself',
    },
    {
      kind: 'flag',
      key: 'firstStartNetwork',
      label: 'The first start goes no further without a network',
    },
    {
      kind: 'rows',
      key: 'setUpWithout',
      label: 'What its set-up can be told to go on without',
      fields: [
        { kind: 'choice', key: 'what', label: 'Without', options: plain(setUpSkips) },
        { kind: 'text', key: 'how', label: 'How it is told' },
        { kind: 'text', key: 'consequence', label: 'What that costs' },
      ],
    },
    { kind: 'flag', key: 'encryptsByItself', label: 'Its set-up encrypts the disks without being asked' },
    {
      kind: 'choice',
      key: 'wireless',
      label: 'Its installer joins a wireless network',
      options: [
        { value: 'page', label: 'on a page' },
        { value: 'commands', label: 'by commands' },
        { value: 'none', label: 'not at all' },
      ],
    },
    commandRows(
      'wirelessCommands',
      'Commands that join a wireless network, in order',
      '{adapter} stands for the name of the device’s adapter.',
    ),
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
}
