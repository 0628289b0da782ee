import { z } from 'zod';
import { FailedCheckSchema } from '../backup/copies/check';
import { CopySchema, DataSetSchema, DestinationSchema } from '../backup/scope/dataSet';
import { FileListHeadSchema } from '../backup/copies/fileListHead';
import { OutdatedCopySchema } from '../backup/copies/outdated';
import { AskedOwnerSchema, NotNeededSchema } from '../backup/scope/forgotten';
import { RenameSchema } from '../backup/destinations/renames';
import { RetentionSchema } from '../backup/keeping/retention';
import { installerMediumIds } from '../catalogue/catalogue';
import { requirementKinds } from '../catalogue/requirement';
import { RuleExceptionSchema } from '../rules/houseRules';
import { routeIds } from '../route/definition';
import { WishSchema } from '../route/wish';
import { ChosenDiskSchema, ChosenRoomSchema } from '../runbook/chosen';
import { CapsuleSchema, DiskPlanSchema, maxCapsules } from '../runbook/diskPlan';
import { nothingPrepared, PreparationSchema } from '../runbook/preparation';
import { AnswerTickSchema } from '../runbook/answers/tick';
import { SignatureSchema } from '../runbook/signature';
import { gateIds, RunbookSchema } from '../runbook/step';
import { FactsSchema, factSources } from '../survey/facts';
import { FolderSchema } from '../survey/format';
import { HandoverSchema, nothingHandedOver } from './handover';
import { ReconciledSchema } from './reconciled';
import { DaySchema, InstantSchema } from '../quantity/daySchema';
import { TroubleCaseSchema } from '../trouble/troubleCase';

/** One device and its owner going from the present system to a target: everything that is kept of it. */
export const MoveSchema = z.strictObject({
  id: z.uuid(),
  reference: z.string().regex(/^MV-\d{4,7}$/),
  createdAt: InstantSchema,
  owner: z.string().trim().max(100),
  site: z.string().trim().max(100),
  /** ISO date by which the move should be done. */
  dueOn: DaySchema.nullable(),
  facts: FactsSchema,
  surveys: z.array(
    z.strictObject({
      takenAt: InstantSchema,
      importedAt: InstantSchema,
      by: z.string(),
      source: z.enum(factSources),
      rootWouldAdd: z.array(z.string()),
    }),
  ),
  /** Folders that the last survey measured: data sets are proposed from them. */
  folders: z.array(FolderSchema),
  /** Why the move is made; null where nobody has said. */
  wish: WishSchema.nullable().default(null),
  decision: z
    .strictObject({
      routeId: z.enum(routeIds),
      releaseId: z.string().nullable(),
      at: InstantSchema,
      by: z.string(),
      /** Why it was chosen against the advice; null when it was the advice. */
      reason: z.string().nullable(),
      advisedTitle: z.string(),
      bringing: z.enum(installerMediumIds).default('stick'),
      /** Checks that the installer is told to skip, each chosen by itself. */
      waivers: z.array(z.enum(requirementKinds)).default([]),
      /** The disk that is written, by its name in the survey and its serial number; null where it follows from the route. */
      disk: ChosenDiskSchema.nullable().default(null),
      /** Room for a second system; null where it is calculated from the release. */
      room: ChosenRoomSchema.nullable().default(null),
    })
    .nullable(),
  /** Where this move leaves house rules. */
  departures: z.array(RuleExceptionSchema).max(50).default([]),
  dataSets: z.array(DataSetSchema).max(500),
  destinations: z.array(DestinationSchema).max(50),
  copies: z.array(CopySchema),
  /** Copies that were checked against an earlier list or other data: shown struck, counted nowhere. */
  outdatedCopies: z.array(OutdatedCopySchema).max(25_000).default([]),
  /** Copies that differ: they count for nothing, and close the gate until they are compared again. */
  failedChecks: z.array(FailedCheckSchema).default([]),
  /** Lines of the checklist of Save that are not needed here. */
  notNeeded: z.array(NotNeededSchema).max(500).default([]),
  /** Lines of the checklist that the owner is asked about. */
  askedOwner: z.array(AskedOwnerSchema).max(500).default([]),
  /** Heads of the lists of files; their lines lie beside the move. */
  fileLists: z.array(FileListHeadSchema).max(1000).default([]),
  /** Other names that files have on a destination. */
  renames: z
    .array(
      z.strictObject({
        dataSetId: z.string(),
        destinationId: z.string(),
        names: z.array(RenameSchema).max(20_000),
      }),
    )
    .default([]),
  /** What becomes of the backup, a line a destination. */
  retention: z.array(RetentionSchema).max(50).default([]),
  /** Data sets compared before and after. */
  reconciled: z.array(ReconciledSchema).max(500).default([]),
  preparation: PreparationSchema,
  /** What is planned on the table of a disk. */
  diskPlan: DiskPlanSchema.nullable().default(null),
  /** Old sectors, kept before a table is rewritten; the last one of a disk counts. */
  capsules: z.array(CapsuleSchema).max(maxCapsules).default([]),
  plan: z.strictObject({ runbook: RunbookSchema, at: InstantSchema, by: z.string() }).nullable(),
  signatures: z.array(SignatureSchema),
  /** What went wrong at its steps; at most one is open. */
  troubles: z.array(TroubleCaseSchema).max(200).default([]),
  /** Pages of the installer that were answered at the bench, each with the answer that it was ticked for. */
  answers: z.array(AnswerTickSchema).max(1000).default([]),
  overrules: z.array(
    z.strictObject({
      gateId: z.enum(gateIds),
      reason: z.string(),
      at: InstantSchema,
      by: z.string(),
      /** What was overruled, each reason, and in which plan: it covers nothing else. Absent in records of old. */
      reasons: z.array(z.string()).exactOptional(),
      planAt: InstantSchema.exactOptional(),
    }),
  ),
  handover: HandoverSchema,
  /** Set when the move was called off: it was started by mistake, or is no longer wanted. */
  calledOff: z
    .strictObject({ reason: z.string().trim().min(1).max(500), at: InstantSchema, by: z.string() })
    .nullable()
    .default(null),
});

export type Move = z.infer<typeof MoveSchema>;

/** The names of its parts. */
export const moveParts = MoveSchema.keyof().options;

/** A move of which nothing is known yet. */
export function newMove(identity: Pick<Move, 'id' | 'reference' | 'createdAt'>): Move {
  return {
    ...identity,
    owner: '',
    site: '',
    dueOn: null,
    facts: {},
    surveys: [],
    folders: [],
    wish: null,
    decision: null,
    departures: [],
    dataSets: [],
    destinations: [],
    copies: [],
    outdatedCopies: [],
    failedChecks: [],
    notNeeded: [],
    askedOwner: [],
    fileLists: [],
    renames: [],
    retention: [],
    reconciled: [],
    preparation: nothingPrepared,
    diskPlan: null,
    capsules: [],
    plan: null,
    signatures: [],
    troubles: [],
    answers: [],
    overrules: [],
    handover: nothingHandedOver,
    calledOff: null,
  };
}

/** Whether a move takes no more changes: it was handed over, or called off. */
export function isClosed({ handover, calledOff }: Pick<Move, 'handover' | 'calledOff'>): boolean {
  return handover.signedOff !== null || calledOff !== null;
}
