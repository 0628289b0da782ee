import { z } from 'zod';
import type { Catalogue, Keepsake } from '../../catalogue/catalogue';
import { findRelease } from '../../catalogue/find';
import { valueOf, type Facts } from '../../survey/facts';
import type { DataSet } from './dataSet';
import { InstantSchema } from '../../quantity/daySchema';
import { unnamedData } from './unnamedData';

type ForgottenThing = Keepsake & {
  /** Where the line comes from: every device, the present system, or an application that is on it. */
  readonly because: string;
  /** A partition with data that no data set names: where it is, and how much. */
  readonly data?: Pick<DataSet, 'place' | 'path' | 'sizeBytes'>;
};

/** What is often forgotten on any device, with how to get each out. */
export const forgottenThings: readonly Keepsake[] = [
  {
    id: 'bookmarks',
    name: 'Browser bookmarks',
    kind: 'browser',
    howToGetItOut: 'Export them to one file from the browser’s own page.',
  },
  {
    id: 'saved-passwords',
    name: 'Saved passwords',
    kind: 'passwords',
    howToGetItOut:
      'Only with the owner’s consent and present: export, encrypt, wipe the export after the restore.',
  },
  {
    id: 'mail-store',
    name: 'Mail store and archives',
    kind: 'mail',
    howToGetItOut: 'Close the mail program, then copy its whole folder; look for archives outside it.',
  },
  {
    id: 'calendar-contacts',
    name: 'Calendar and contacts',
    kind: 'mail',
    howToGetItOut: 'Export as iCalendar and vCard files unless a server keeps them.',
  },
  {
    id: 'desktop',
    name: 'Desktop',
    kind: 'folder',
    howToGetItOut: 'Copy the folder; what is there is not always in Documents.',
  },
  {
    id: 'downloads',
    name: 'Downloads',
    kind: 'folder',
    howToGetItOut: 'Ask which of it is wanted, then copy.',
  },
  {
    id: 'fonts',
    name: 'Fonts and templates',
    kind: 'settings',
    howToGetItOut: 'Copy those that the owner added.',
  },
  {
    id: 'notes-chats',
    name: 'Notes and chat history',
    kind: 'settings',
    howToGetItOut: 'Export from each program; some keep them only on the device.',
  },
  {
    id: 'game-saves',
    name: 'Games’ saves',
    kind: 'settings',
    howToGetItOut: 'Copy each program’s own folder below the account’s settings.',
  },
  {
    id: 'wireless-keys',
    name: 'Wireless keys and VPN settings',
    kind: 'keys',
    howToGetItOut: 'Export the profiles; handle the file as a secret.',
  },
  {
    id: 'printers',
    name: 'Printer list',
    kind: 'settings',
    howToGetItOut: 'Write down names and addresses, or take a picture of the page.',
  },
  {
    id: 'certificates',
    name: 'Certificates',
    kind: 'keys',
    howToGetItOut: 'Export with the private key where there is one, with a passphrase.',
  },
  {
    id: 'application-list',
    name: 'List of installed applications',
    kind: 'application-list',
    howToGetItOut: 'Save the list to a file.',
  },
  {
    id: 'other-accounts',
    name: 'Files of other accounts',
    kind: 'other-account',
    howToGetItOut: 'Look for other people’s folders beside the owner’s; ask them.',
  },
  {
    id: 'outside-home',
    name: 'Files outside the home folder',
    kind: 'folder',
    howToGetItOut: 'Look at the top of every partition and in the programs’ own folders.',
  },
  {
    id: 'cloud-placeholders',
    name: 'Cloud files that are only placeholders',
    kind: 'folder',
    howToGetItOut: 'Make them available offline first; a placeholder copies as a name with nothing in it.',
  },
];

/** Said of a line that is no data set: that there is none here, or none that is needed, and who says so. */
export const NotNeededSchema = z.strictObject({
  id: z.string().max(80),
  reason: z.string().trim().max(300),
  at: InstantSchema,
  by: z.string(),
});
type NotNeeded = z.infer<typeof NotNeededSchema>;

/** A line that nobody at the device can answer: the owner is asked. */
export const AskedOwnerSchema = z.strictObject({ id: z.string().max(80), at: InstantSchema, by: z.string() });
type AskedOwner = z.infer<typeof AskedOwnerSchema>;

/** What is said of a line: that there is none, that the owner is to be asked, or nothing again. */
export const checklistAnswers = ['none', 'ask', 'open'] as const;
export type ChecklistAnswer = {
  readonly id: string;
  readonly answer: (typeof checklistAnswers)[number];
  readonly reason: string;
};

export type ChecklistLine = ForgottenThing & {
  readonly state: 'listed' | 'not-needed' | 'ask' | 'open';
  readonly notNeeded: NotNeeded | null;
  readonly asked: AskedOwner | null;
};

/**
 * The list to go through with the owner: what is often forgotten everywhere, what the present system
 * keeps in places of its own, what each application on the device keeps, and before all of them what lies on disks
 * and is named by no data set.
 */
export function checklistOf(
  facts: Facts,
  catalogue: Catalogue,
  dataSets: readonly DataSet[],
  {
    notNeeded,
    askedOwner,
  }: { readonly notNeeded: readonly NotNeeded[]; readonly askedOwner: readonly AskedOwner[] },
): readonly ChecklistLine[] {
  const family = findRelease(catalogue, valueOf(facts, 'presentRelease'))?.family;
  const system = catalogue.families.find(({ id }) => id === family);
  const used = valueOf(facts, 'applications') ?? [];
  const applications = catalogue.applications.filter(
    ({ id, name }) => used.includes(id) || used.includes(name),
  );
  const things: readonly ForgottenThing[] = [
    ...(system?.keeps ?? []).map((thing) => ({ ...thing, because: system?.name ?? '' })),
    ...applications.flatMap(({ name, keeps }) => keeps.map((thing) => ({ ...thing, because: name }))),
    ...forgottenThings.map((thing) => ({ ...thing, because: '' })),
  ];
  const unnamed = unnamedData(facts, dataSets).map((data): ForgottenThing => ({
    id: data.id,
    name: data.name,
    kind: 'folder',
    howToGetItOut: 'No data set names anything there. Open it with the owner: what of it is to be saved?',
    because: '',
    data,
  }));
  return [...unnamed, ...things].map((thing) => {
    const listed = dataSets.some(({ id, name }) => id === thing.id || name === thing.name);
    const answer = notNeeded.find(({ id }) => id === thing.id) ?? null;
    const asked = askedOwner.find(({ id }) => id === thing.id) ?? null;
    return {
      ...thing,
      state: listed ? 'listed' : answer ? 'not-needed' : asked ? 'ask' : 'open',
      notNeeded: answer,
      asked,
    };
  });
}
