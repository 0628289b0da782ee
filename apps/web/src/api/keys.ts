import { api, type DifferenceGroup, type FitTableQuery, type MoveListQuery } from '@ulvane/contract';
import { addressOf } from './call';

/** The keys under which answers are kept in the page. What changes an answer names its key here. */
export const keys = {
  session: 'session',
  today: 'today',
  house: 'house',
  drives: 'drives',
  shelf: 'media shelf',
  accounts: 'accounts',
  tokens: 'tokens',
  houseRulesHistory: 'house rules history',
  sampleMoves: 'sample moves',
  shoppingList: 'shopping list',
  unreadableRecords: 'unreadable records',
  move: (reference: string) => `move ${reference}`,
  record: (reference: string, version: number) => `record ${reference} ${version}`,
  ownerHabits: (reference: string, owner: string) => `habits of ${owner} beside ${reference}`,
  secrets: (reference: string) => `secrets ${reference}`,
  reassessment: (catalogueVersion: number) => `reassessment ${catalogueVersion}`,
  entryHistory: (kind: string, id: string) => `catalogue history ${kind} ${id}`,
  fleetGroups: (by: string) => `groups by ${by}`,
  files: (listId: string, after: number, search: string) => ['files', listId, after, search] as const,
  differenceGroups: (id: string, open: number, explained: number) => ['groups', id, open, explained] as const,
  differences: (id: string, { kind, folder, open }: DifferenceGroup) =>
    ['differences', id, kind, folder, open] as const,
  nameCheck: (fileSystem: string, lists: readonly string[]) =>
    ['names and sizes', fileSystem, ...lists] as const,
  fit: (query: FitTableQuery) => addressOf(api.fleetFit, { query }),
  moveList: (query: MoveListQuery) => addressOf(api.moves, { query }),
  moveRows: (query: MoveListQuery, pages: readonly number[]) =>
    ['rows', addressOf(api.moves, { query }), ...pages] as const,
} as const;

const startsWith =
  (...starts: readonly string[]) =>
  (key: unknown) => {
    const text: unknown = Array.isArray(key) ? key[1] : key;
    return typeof text === 'string' && starts.some((start) => text.startsWith(start));
  };

/** Keys of which there are many, for asking again all at once. */
export const manyKeys = {
  // Lists of moves, and what is added up from them.
  moveLists: startsWith(addressOf(api.moves), addressOf(api.fleetFit)),
  catalogueHistory: startsWith('catalogue history '),
} as const;
