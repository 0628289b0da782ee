import { troubleIds } from '@ulvane/core/runbook';
import { causeAnswers } from '@ulvane/core/trouble';
import { z } from 'zod';
import { endpoint, writers } from '../endpoint';
import { MoveViewSchema, version } from '../shapes';
import { nothing } from './parts';

/** Where a sign was seen, and when. */
const seen = {
  version,
  stepId: z.string().max(200),
  sign: z.enum(troubleIds),
  seenAt: z.iso.datetime(),
};
const causeId = z.string().min(1).max(60);
const reason = z.string().max(500);

/** What goes wrong at a step, and the detours that lead back to the runbook. */
export const troublesApi = {
  openTrouble: endpoint({
    method: 'POST',
    path: '/moves/:reference/troubles',
    summary: 'Note that something went wrong at a step: the runbook is held up until it is over',
    access: writers,
    body: z.object(seen),
    query: nothing,
    response: MoveViewSchema,
  }),

  answerCause: endpoint({
    method: 'POST',
    path: '/moves/:reference/troubles/answers',
    summary: 'Answer the check of a cause: yes, no, or that it cannot be checked',
    access: writers,
    body: z.object({ ...seen, causeId, answer: z.enum(causeAnswers) }),
    query: nothing,
    response: MoveViewSchema,
  }),

  startDetour: endpoint({
    method: 'POST',
    path: '/moves/:reference/troubles/detours',
    summary: 'Start the detour that fixes a cause: its stops are signed like steps',
    access: writers,
    body: z.object({ ...seen, causeId }),
    query: nothing,
    response: MoveViewSchema,
  }),

  leaveDetour: endpoint({
    method: 'POST',
    path: '/moves/:reference/troubles/:number/leave',
    summary: 'Leave a detour that did not help, once its changes are undone',
    access: writers,
    body: z.object({ version, reason }),
    query: nothing,
    response: MoveViewSchema,
  }),

  closeTrouble: endpoint({
    method: 'POST',
    path: '/moves/:reference/troubles/:number/close',
    summary: 'End a trouble with a note: it passed, or something else helped',
    access: writers,
    body: z.object({ version, note: reason }),
    query: nothing,
    response: MoveViewSchema,
  }),
} as const;
