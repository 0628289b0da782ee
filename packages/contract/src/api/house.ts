import { CatalogueExportSchema, catalogueKinds } from '@ulvane/core/catalogue';
import { HouseRulesSchema } from '@ulvane/core/rules';
import { z } from 'zod';
import { endpoint, everyone, leads, nameInPath } from '../endpoint';
import {
  CatalogueChangeSchema,
  EntryChangeSchema,
  HouseSchema,
  HouseRulesChangeSchema,
  version,
} from '../shapes';
import { nothing } from './parts';

/** House rules and the catalogue. */
export const houseApi = {
  house: endpoint({
    method: 'GET',
    path: '/house',
    summary: 'Catalogue and house rules',
    access: everyone,
    body: nothing,
    query: nothing,
    response: HouseSchema,
  }),

  houseRulesHistory: endpoint({
    method: 'GET',
    path: '/house/rules/history',
    summary: 'Who changed house rules, when and how',
    access: everyone,
    body: nothing,
    query: nothing,
    response: z.object({ changes: z.array(HouseRulesChangeSchema) }),
  }),

  setHouseRules: endpoint({
    method: 'PUT',
    path: '/house/rules',
    summary: 'Change house rules',
    access: leads,
    body: z.object({ version, houseRules: HouseRulesSchema }),
    query: nothing,
    response: HouseSchema,
  }),

  putCatalogueEntry: endpoint({
    method: 'PUT',
    path: '/catalogue/:kind/:id',
    summary: 'Add or change an entry of the catalogue',
    access: leads,
    body: z.object({ version, entry: z.looseObject({ id: z.string().max(80) }) }),
    query: nothing,
    response: HouseSchema,
    params: { id: nameInPath },
  }),
  removeCatalogueEntry: endpoint({
    method: 'POST',
    path: '/catalogue/:kind/:id/remove',
    summary: 'Delete an entry of the catalogue',
    access: leads,
    body: z.object({ version }),
    query: nothing,
    response: HouseSchema,
    params: { id: nameInPath },
  }),
  catalogueHistory: endpoint({
    method: 'GET',
    path: '/catalogue/history',
    summary: 'The last changes of the catalogue, or of one entry',
    access: everyone,
    body: nothing,
    query: z.object({
      kind: z.enum(['', ...catalogueKinds]).default(''),
      id: z.string().max(80).default(''),
    }),
    response: z.object({ changes: z.array(CatalogueChangeSchema) }),
  }),
  exportCatalogue: endpoint({
    method: 'GET',
    path: '/catalogue/export',
    summary: 'The catalogue as a document',
    access: everyone,
    body: nothing,
    query: nothing,
    response: CatalogueExportSchema,
    produces: 'application/json',
  }),
  previewCatalogue: endpoint({
    method: 'POST',
    path: '/catalogue/preview',
    summary: 'What taking in a catalogue would change',
    access: leads,
    body: z.looseObject({ format: z.string() }),
    query: nothing,
    response: z.object({ changes: z.array(EntryChangeSchema) }),
    limitBytes: 2 * 1024 * 1024,
  }),
  importCatalogue: endpoint({
    method: 'POST',
    path: '/catalogue/import',
    summary: 'Import a catalogue in place of the present one',
    access: leads,
    body: z.object({ version, document: z.looseObject({ format: z.string() }) }),
    query: nothing,
    response: HouseSchema,
    limitBytes: 2 * 1024 * 1024,
  }),

  collector: endpoint({
    method: 'GET',
    path: '/collector',
    summary: 'The survey script',
    access: everyone,
    body: nothing,
    query: nothing,
    response: z.unknown(),
    produces: 'application/x-sh',
  }),
} as const;
