import {
  keepsakeKinds,
  driverParts,
  limitedParts,
  releaseTitle,
  type Catalogue,
  type CatalogueKind,
} from '@ulvane/core/catalogue';
import { commandRows, plain, type FieldSpec } from './fieldSpec';
import { releaseFields } from './releaseFields';

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
          kind: 'rows',
          key: 'habits',
          label: 'How things that everybody does are done there',
          fields: [
            { kind: 'text', key: 'what', label: 'What, in the same words for each family' },
            { kind: 'text', key: 'here', label: 'How it is done' },
          ],
        },
        commandRows(
          'stickCommands',
          'Commands that make a stick by hand, in order',
          '{scheme} stands for gpt or mbr; a line with {active} is for MBR only.',
        ),
        {
          kind: 'words',
          key: 'noise',
          label: 'Files that it makes by itself, as globs by comma',
        },
      ];
    case 'releases':
      return releaseFields(families, releases);
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
        {
          kind: 'rows',
          key: 'driverSets',
          label: 'Sets of drivers that its maker gives',
          fields: [
            { kind: 'choice', key: 'family', label: 'For', options: families },
            { kind: 'text', key: 'from', label: 'Where it is got' },
            { kind: 'many', key: 'serves', label: 'Serves', options: plain(driverParts) },
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
