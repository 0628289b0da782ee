import { catalogueKinds, exportCatalogue, type CatalogueKind } from '@ulvane/core/catalogue';
import { refuse } from '../http/problem';
import { controllerOf } from '../http/controller';
import { CatalogueService } from './catalogue.service';
import { HouseService } from './house.service';

function kindOf(text: string | undefined): CatalogueKind {
  const kind = catalogueKinds.find((known) => known === text);
  if (!kind) throw refuse('no-such-kind', `The catalogue has no part named ${text ?? ''}.`);
  return kind;
}

export const CatalogueController = controllerOf(
  { catalogue: CatalogueService, house: HouseService },
  {
    catalogueHistory: async ({ query }, _caller, { catalogue }) => ({
      changes: await catalogue.history(query.kind, query.id),
    }),

    exportCatalogue: async (_input, { response }, { house }) => {
      response.setHeader('Content-Disposition', 'attachment; filename="ulvane-catalogue.json"');
      return exportCatalogue(await house.catalogue());
    },

    previewCatalogue: async ({ body }, _caller, { catalogue }) => ({
      changes: await catalogue.preview(body),
    }),

    importCatalogue: ({ body }, { actor }, { catalogue }) =>
      catalogue.importDocument(body.version, body.document, actor.name),

    putCatalogueEntry: ({ params, body }, { actor }, { catalogue }) =>
      catalogue.put(body.version, kindOf(params.kind), params.id, body.entry, actor.name),

    removeCatalogueEntry: ({ params, body }, { actor }, { catalogue }) =>
      catalogue.put(body.version, kindOf(params.kind), params.id, null, actor.name),
  },
);
