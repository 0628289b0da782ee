import { z } from 'zod';
import { endpoint, everyone, leads } from '../endpoint';
import { LogRecordSchema, UnreadableMoveSchema } from '../recordShapes';
import { longDocument, nothing } from './parts';

const unreadable = z.object({ moves: z.array(UnreadableMoveSchema) });

/** The log, whether it can be believed, and records that cannot be read. */
export const recordApi = {
  events: endpoint({
    method: 'GET',
    path: '/moves/:reference/events',
    summary: 'The log of a move with its codes, and the record that the last line is tied to',
    access: everyone,
    body: nothing,
    query: nothing,
    response: LogRecordSchema,
  }),
  unreadable: endpoint({
    method: 'GET',
    path: '/records/unreadable',
    summary: 'Moves whose records cannot be read, with the reason',
    access: leads,
    body: nothing,
    query: nothing,
    response: unreadable,
  }),
  rawRecord: endpoint({
    method: 'GET',
    path: '/moves/:reference/record',
    summary: 'The record of a move as it is stored, readable or not',
    access: leads,
    body: nothing,
    query: nothing,
    response: z.json(),
  }),
  repairRecord: endpoint({
    method: 'PUT',
    path: '/moves/:reference/record',
    summary: 'Put a repaired record in place of one that cannot be read',
    access: leads,
    body: z.object({ record: z.looseObject({}) }),
    query: nothing,
    response: unreadable,
    limitBytes: longDocument,
  }),
  rollBackRecord: endpoint({
    method: 'POST',
    path: '/moves/:reference/record/roll-back',
    summary: 'Roll a record that cannot be read back to the last version that can',
    access: leads,
    body: nothing,
    query: nothing,
    response: unreadable,
  }),
} as const;
