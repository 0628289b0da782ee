import { numberMarks } from '@ulvane/core/quantity';
import { routeIds } from '@ulvane/core/route';
import { z } from 'zod';
import { endpoint, everyone, writers } from '../endpoint';
import {
  ChoiceOutcomeSchema,
  FileOutcomeSchema,
  FitTableQuerySchema,
  FitTableSchema,
  FleetGroupSchema,
  groupKeys,
  ListMappingSchema,
  MoveListQuerySchema,
  MoveListSchema,
  ReassessmentSchema,
  RowOutcomeSchema,
  rowsAtOnce,
  ShoppingLineSchema,
  surveysAtOnce,
} from '../fleetShapes';
import { TodaySchema } from '../shapes';
import { longDocument, nothing, surveyText } from './parts';

/** Many moves at once. */
export const fleetApi = {
  today: endpoint({
    method: 'GET',
    path: '/today',
    summary: 'What needs a hand next, across moves',
    access: everyone,
    body: nothing,
    query: nothing,
    response: TodaySchema,
  }),

  moves: endpoint({
    method: 'GET',
    path: '/moves',
    summary: 'Moves: search, filter, sort, page',
    access: everyone,
    body: nothing,
    query: MoveListQuerySchema,
    response: MoveListSchema,
  }),

  moveReferences: endpoint({
    method: 'GET',
    path: '/fleet/references',
    summary: 'References of every move that a list has, over all its pages',
    access: everyone,
    body: nothing,
    query: MoveListQuerySchema,
    response: z.object({ references: z.array(z.string()) }),
  }),

  fleetGroups: endpoint({
    method: 'GET',
    path: '/fleet/groups',
    summary: 'How many devices share a site, a model, a verdict, a fix or a present system',
    access: everyone,
    body: nothing,
    query: z.object({ by: z.enum(groupKeys) }),
    response: z.object({ groups: z.array(FleetGroupSchema) }),
  }),
  fleetFit: endpoint({
    method: 'GET',
    path: '/fleet/fit',
    summary:
      'What each release would take, by kind of device: hands-on, money, what is given up, or what is in the way',
    access: everyone,
    body: nothing,
    query: FitTableQuerySchema,
    response: FitTableSchema,
  }),
  shoppingList: endpoint({
    method: 'GET',
    path: '/fleet/shopping-list',
    summary: 'Parts that devices need for their route, summed up',
    access: everyone,
    body: nothing,
    query: nothing,
    response: z.object({ lines: z.array(ShoppingLineSchema) }),
  }),
  shoppingListCsv: endpoint({
    method: 'GET',
    path: '/fleet/shopping-list.csv',
    summary: 'The shopping list as CSV',
    access: everyone,
    body: nothing,
    query: nothing,
    response: z.unknown(),
    produces: 'text/csv',
  }),
  reassessment: endpoint({
    method: 'GET',
    path: '/fleet/reassessment',
    summary: 'How many devices wait to be assessed against the present catalogue',
    access: everyone,
    body: nothing,
    query: nothing,
    response: ReassessmentSchema,
  }),
  listMapping: endpoint({
    method: 'GET',
    path: '/fleet/list-mapping',
    summary: 'Which column of a list was which fact, last time',
    access: everyone,
    body: nothing,
    query: nothing,
    response: z.object({ mapping: ListMappingSchema }),
  }),
  takeRows: endpoint({
    method: 'POST',
    path: '/fleet/rows',
    summary: 'Import rows of a device list, or only say what that would do',
    access: writers,
    body: z.object({
      dryRun: z.boolean(),
      mapping: ListMappingSchema,
      rows: z
        // A cell that is too long concerns its own row only, which says so.
        .array(
          z.object({
            row: z.int().min(1),
            cells: z.record(z.string().max(200), z.string().max(20_000)),
            /** The row of the list, perhaps in another batch, that had this serial first. */
            sameAsRow: z.int().min(1).optional(),
          }),
        )
        .max(rowsAtOnce),
      /** How each column writes its numbers; where it is not said, as the house does. */
      marks: z.record(z.string().max(200), z.enum(numberMarks)).default({}),
    }),
    query: nothing,
    response: z.object({ outcomes: z.array(RowOutcomeSchema) }),
    limitBytes: 8 * 1024 * 1024,
  }),
  takeSurveys: endpoint({
    method: 'POST',
    path: '/fleet/surveys',
    summary: 'Import several surveys, each to the move of its serial number or to a new one',
    access: writers,
    body: z.object({
      dryRun: z.boolean(),
      files: z.array(z.object({ name: z.string().max(300), text: surveyText })).max(surveysAtOnce),
    }),
    query: nothing,
    response: z.object({ outcomes: z.array(FileOutcomeSchema) }),
    limitBytes: longDocument,
  }),
  chooseForMany: endpoint({
    method: 'POST',
    path: '/fleet/choose',
    summary: 'Choose one route for many devices, or only say what that would do',
    access: writers,
    body: z.object({
      dryRun: z.boolean(),
      references: z.array(z.string().max(20)).min(1).max(500),
      routeId: z.enum(routeIds),
      releaseId: z.string().nullable(),
      reason: z.string().max(2000).nullable(),
    }),
    query: nothing,
    response: z.object({ outcomes: z.array(ChoiceOutcomeSchema) }),
  }),
} as const;
