import { DataSetSchema, DestinationSchema } from '@ulvane/core/backup';
import { activationKinds, installerMediumIds, requirementKinds } from '@ulvane/core/catalogue';
import { RuleExceptionSchema } from '@ulvane/core/rules';
import { HandoverSchema, MoveExportSchema, MoveSchema } from '@ulvane/core/record';
import { routeIds, WishSchema } from '@ulvane/core/route';
import {
  CapsuleSchema,
  ChosenDiskSchema,
  ChosenRoomSchema,
  CrossingSchema,
  DiskWorkSchema,
  isolationIds,
  PreparationSchema,
} from '@ulvane/core/runbook';
import { factKeys } from '@ulvane/core/survey';
import { z } from 'zod';
import { endpoint, everyone, leads, writers } from '../endpoint';
import { OptionsSchema, RunbookViewSchema } from '../planShapes';
import { OwnerHabitsSchema } from '../recordShapes';
import { MoveViewSchema, SurveyPreviewSchema, version } from '../shapes';
import { day, longDocument, nothing, oneSurvey, surveyText } from './parts';

const note = z.string().max(2000);
const note300 = z.string().trim().min(1).max(300);
const line = z.string().trim().min(1).max(100);

/** One move, from survey to hand-over. */
export const movesApi = {
  addMove: endpoint({
    method: 'POST',
    path: '/moves',
    summary: 'Start a move, with a survey or without',
    access: writers,
    body: z.object({
      owner: z.string().trim().max(100),
      site: z.string().trim().max(100),
      dueOn: day.nullable(),
      surveyText: surveyText.nullable(),
    }),
    query: nothing,
    response: MoveViewSchema,
    limitBytes: oneSurvey,
  }),

  importMove: endpoint({
    method: 'POST',
    path: '/moves/import',
    summary: 'Import an exported move',
    access: writers,
    body: z.looseObject({ format: z.string() }),
    query: nothing,
    response: MoveViewSchema,
    limitBytes: longDocument,
  }),

  move: endpoint({
    method: 'GET',
    path: '/moves/:reference',
    summary: 'One move, whole',
    access: everyone,
    body: nothing,
    query: nothing,
    response: MoveViewSchema,
  }),

  options: endpoint({
    method: 'GET',
    path: '/moves/:reference/options',
    summary: 'Every way that the device could go, with verdict, reasons and what it comes to',
    access: everyone,
    body: nothing,
    query: nothing,
    response: OptionsSchema,
  }),

  runbook: endpoint({
    method: 'GET',
    path: '/moves/:reference/runbook',
    summary: 'The runbook of the chosen way: steps with operators, barriers, and the machine after each',
    access: everyone,
    body: nothing,
    query: nothing,
    response: RunbookViewSchema,
  }),

  ownerHabits: endpoint({
    method: 'GET',
    path: '/moves/:reference/owner-habits',
    summary: 'What the owner was shown and set up with their earlier devices',
    access: everyone,
    body: nothing,
    query: nothing,
    response: OwnerHabitsSchema,
  }),

  exportMove: endpoint({
    method: 'GET',
    path: '/moves/:reference/export',
    summary: 'The move as a document',
    access: everyone,
    body: nothing,
    query: nothing,
    response: MoveExportSchema,
    produces: 'application/json',
  }),

  handoverPdf: endpoint({
    method: 'GET',
    path: '/moves/:reference/handover.pdf',
    summary: 'The hand-over sheet',
    access: everyone,
    body: nothing,
    query: nothing,
    response: z.unknown(),
    produces: 'application/pdf',
  }),

  ownerPdf: endpoint({
    method: 'GET',
    path: '/moves/:reference/owner.pdf',
    summary: 'The sheet that the owner keeps',
    access: everyone,
    body: nothing,
    query: nothing,
    response: z.unknown(),
    produces: 'application/pdf',
  }),

  previewSurvey: endpoint({
    method: 'POST',
    path: '/surveys/preview',
    summary: 'What a survey would change, without taking it',
    access: writers,
    body: z.object({ text: surveyText, reference: z.string().max(40).nullable() }),
    query: nothing,
    response: SurveyPreviewSchema,
    limitBytes: oneSurvey,
  }),

  takeSurvey: endpoint({
    method: 'POST',
    path: '/moves/:reference/survey',
    summary: 'Apply a survey',
    access: writers,
    body: z.object({ version, text: surveyText }),
    query: nothing,
    response: MoveViewSchema,
    limitBytes: oneSurvey,
  }),

  typeFact: endpoint({
    method: 'PUT',
    path: '/moves/:reference/facts/:key',
    summary: 'Type a fact',
    access: writers,
    body: z.object({ version, value: z.json() }),
    query: nothing,
    response: MoveViewSchema,
  }),

  typeFacts: endpoint({
    method: 'PUT',
    path: '/moves/:reference/facts',
    summary: 'Type several facts at once: all of them, or none',
    access: writers,
    body: z.object({ version, facts: z.partialRecord(z.enum(factKeys), z.json()) }),
    query: nothing,
    response: MoveViewSchema,
  }),

  forgetFact: endpoint({
    method: 'POST',
    path: '/moves/:reference/facts/:key/forget',
    summary: 'Set a fact back to unknown',
    access: writers,
    body: z.object({ version }),
    query: nothing,
    response: MoveViewSchema,
  }),

  setIdentity: endpoint({
    method: 'PUT',
    path: '/moves/:reference/identity',
    summary: 'Owner, site, due day',
    access: writers,
    body: MoveSchema.pick({ owner: true, site: true, dueOn: true }).extend({ version }),
    query: nothing,
    response: MoveViewSchema,
  }),

  callOff: endpoint({
    method: 'POST',
    path: '/moves/:reference/call-off',
    summary: 'Call a move off, with a reason; nothing of it is deleted',
    access: writers,
    body: z.object({ version, reason: z.string().trim().min(1).max(500) }),
    query: nothing,
    response: MoveViewSchema,
  }),

  resume: endpoint({
    method: 'POST',
    path: '/moves/:reference/resume',
    summary: 'Resume a move that was called off',
    access: writers,
    body: z.object({ version }),
    query: nothing,
    response: MoveViewSchema,
  }),

  stateWish: endpoint({
    method: 'PUT',
    path: '/moves/:reference/wish',
    summary: 'Say why the move is made, or take that back',
    access: writers,
    body: z.object({ version, wish: WishSchema.nullable() }),
    query: nothing,
    response: MoveViewSchema,
  }),

  choose: endpoint({
    method: 'PUT',
    path: '/moves/:reference/decision',
    summary: 'Choose a route',
    access: writers,
    body: z.object({
      version,
      routeId: z.enum(routeIds),
      releaseId: z.string().nullable(),
      reason: z.string().max(2000).nullable(),
      installerMedium: z.enum(installerMediumIds).default('stick'),
      waivers: z.array(z.enum(requirementKinds)).max(30).default([]),
      /** The disk that is written; null: as the route goes. */
      disk: ChosenDiskSchema.nullable().default(null),
      /** Room for a second system on the same disk; null: what the release asks for. */
      room: ChosenRoomSchema.nullable().default(null),
    }),
    query: nothing,
    response: MoveViewSchema,
  }),

  depart: endpoint({
    method: 'PUT',
    path: '/moves/:reference/rules',
    summary: 'Make an exception from the house rules in one setting, for this move',
    access: writers,
    body: RuleExceptionSchema.pick({ setting: true, value: true }).extend({
      version,
      reason: z.string().max(500),
    }),
    query: nothing,
    response: MoveViewSchema,
  }),

  setDataSets: endpoint({
    method: 'PUT',
    path: '/moves/:reference/data-sets',
    summary: 'What is saved',
    access: writers,
    body: z.object({ version, dataSets: z.array(DataSetSchema).max(500) }),
    query: nothing,
    response: MoveViewSchema,
    limitBytes: longDocument,
  }),

  setDestinations: endpoint({
    method: 'PUT',
    path: '/moves/:reference/destinations',
    summary: 'Where it goes',
    access: writers,
    body: z.object({ version, destinations: z.array(DestinationSchema).max(50) }),
    query: nothing,
    response: MoveViewSchema,
  }),

  tickCopy: endpoint({
    method: 'PUT',
    path: '/moves/:reference/copies',
    summary: 'State by hand that a copy is good, or withdraw that',
    access: writers,
    body: z.object({ version, dataSetId: z.string(), destinationId: z.string(), verified: z.boolean() }),
    query: nothing,
    response: MoveViewSchema,
  }),

  prepare: endpoint({
    method: 'PUT',
    path: '/moves/:reference/preparation',
    summary: 'Note what has been got ready',
    access: writers,
    body: z.object({
      version,
      preparation: z
        .object({
          stick: PreparationSchema.shape.stick,
          image: z.object({ releaseId: line, keptWhere: note300 }).nullable(),
          licence: z.object({ kind: z.enum(activationKinds), keptWhere: note300 }).nullable(),
          recoveryKey: z.object({ keptWhere: note300 }).nullable(),
          passphrase: z.object({ keptWhere: note300 }).nullable(),
          diskMarks: z
            .object({ serialEnd: z.string().trim().min(4).max(128), sizeGigabytes: z.number().positive() })
            .nullable(),
          power: z.object({}).nullable(),
          networkDriver: z.object({ how: note300 }).nullable(),
          nothingToSave: z.object({ statement: z.string().trim().min(1).max(500) }).nullable(),
          wantedSystemBytes: PreparationSchema.shape.wantedSystemBytes,
          // Without its default: what a note does not speak of stays as it is.
          dataParts: PreparationSchema.shape.dataParts.unwrap(),
          holdUntil: PreparationSchema.shape.holdUntil,
          ownerConsent: z.object({ signer: line, keptWhere: note300 }).nullable(),
          organisationConsent: z.object({ signer: line, keptWhere: note300 }).nullable(),
          isolation: z.object({ done: z.array(z.enum(isolationIds)) }).nullable(),
          replacement: z.object({ maker: line, model: line, serial: line }).nullable(),
          dataMoved: z.object({ statement: z.string().trim().min(1).max(500) }).nullable(),
          wipe: z.object({ method: note300 }).nullable(),
          disposal: z.object({ how: note300 }).nullable(),
        })
        .partial(),
    }),
    query: nothing,
    response: MoveViewSchema,
  }),

  planDisk: endpoint({
    method: 'PUT',
    path: '/moves/:reference/disk-plan',
    summary: 'Plan work on a disk’s table, or remove it from the plan',
    access: writers,
    body: z.object({ version, disk: z.string().min(1).max(64), work: DiskWorkSchema.nullable() }),
    query: nothing,
    response: MoveViewSchema,
  }),

  keepCapsule: endpoint({
    method: 'POST',
    path: '/moves/:reference/capsules',
    summary: 'Save the old sectors of a disk',
    access: writers,
    body: CapsuleSchema.omit({ at: true, by: true }).extend({ version }),
    query: nothing,
    response: MoveViewSchema,
    limitBytes: longDocument,
  }),

  plan: endpoint({
    method: 'POST',
    path: '/moves/:reference/plan',
    summary: 'Make the runbook, or make it again',
    access: writers,
    body: z.object({ version }),
    query: nothing,
    response: MoveViewSchema,
  }),

  startStep: endpoint({
    method: 'POST',
    path: '/moves/:reference/steps/:stepId/start',
    summary: 'Start the wait of a step',
    access: writers,
    body: z.object({ version, crossing: CrossingSchema.nullable().optional() }),
    query: nothing,
    response: MoveViewSchema,
  }),

  signStep: endpoint({
    method: 'POST',
    path: '/moves/:reference/steps/:stepId/sign',
    summary: 'Sign a step as done',
    access: writers,
    body: z.object({
      version,
      actualMinutes: z.number().min(0).max(100_000).nullable(),
      note,
      /** What the installer's page shows of the disk: needed for the step at the Line. */
      crossing: CrossingSchema.nullable().optional(),
    }),
    query: nothing,
    response: MoveViewSchema,
  }),

  unsignStep: endpoint({
    method: 'POST',
    path: '/moves/:reference/steps/:stepId/unsign',
    summary: 'Withdraw a signature, with a reason',
    access: writers,
    body: z.object({ version, reason: note }),
    query: nothing,
    response: MoveViewSchema,
  }),

  correctStep: endpoint({
    method: 'POST',
    path: '/moves/:reference/steps/:stepId/correct',
    summary: 'Correct a signature that stays',
    access: writers,
    body: z.object({ version, reason: note }),
    query: nothing,
    response: MoveViewSchema,
  }),

  overruleGate: endpoint({
    method: 'POST',
    path: '/moves/:reference/gates/:gateId/overrule',
    summary: 'Overrule a closed gate, with a reason',
    access: leads,
    body: z.object({ version, reason: note }),
    query: nothing,
    response: MoveViewSchema,
  }),

  noteHandover: endpoint({
    method: 'PUT',
    path: '/moves/:reference/handover',
    summary: 'What was found, what is open, what happens to the backup',
    access: writers,
    body: z.object({ version, handover: HandoverSchema.pick({ found: true, openPoints: true }) }),
    query: nothing,
    response: MoveViewSchema,
    limitBytes: longDocument,
  }),

  tickAnswer: endpoint({
    method: 'PUT',
    path: '/moves/:reference/answers',
    summary: 'Tick a line of the installer’s answer sheet, or withdraw that',
    access: writers,
    body: z.object({
      version,
      page: z.string().max(60),
      answer: z.string().max(2000),
      ticked: z.boolean(),
    }),
    query: nothing,
    response: MoveViewSchema,
  }),

  tellOwner: endpoint({
    method: 'PUT',
    path: '/moves/:reference/handover/told',
    summary: 'Note that the owner was told one thing, or withdraw that',
    access: writers,
    body: z.object({ version, sentence: z.string().max(1000), told: z.boolean() }),
    query: nothing,
    response: MoveViewSchema,
  }),

  signOff: endpoint({
    method: 'POST',
    path: '/moves/:reference/sign-off',
    summary: 'The owner signs',
    access: writers,
    body: z.object({ version, ownerName: z.string().max(100) }),
    query: nothing,
    response: MoveViewSchema,
  }),
} as const;
