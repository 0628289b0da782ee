import { Controller, Header } from '@nestjs/common';
import { api, type CatalogueChange, type HouseView } from '@ulvane/contract';
import {
  catalogueKinds,
  exportCatalogue,
  type CatalogueExportSchema,
  type CatalogueKind,
  type EntryChange,
} from '@ulvane/core/catalogue';
import type { z } from 'zod';
import { refuse } from '../http/problem';
import { Actor, Input, Serves, type ActorOfRequest, type InputOf } from '../http/serves';
import { CatalogueService } from './catalogue.service';
import { HouseService } from './house.service';

function kindOf(text: string | undefined): CatalogueKind {
  const kind = catalogueKinds.find((known) => known === text);
  if (!kind) throw refuse('no-such-kind', `The catalogue has no part named ${text ?? ''}.`);
  return kind;
}

@Controller()
export class CatalogueController {
  constructor(
    private readonly catalogue: CatalogueService,
    private readonly house: HouseService,
  ) {}

  @Serves(api.catalogueHistory)
  async history(
    @Input() { query }: InputOf<typeof api.catalogueHistory>,
  ): Promise<{ changes: CatalogueChange[] }> {
    return { changes: await this.catalogue.history(query.kind, query.id) };
  }

  @Serves(api.exportCatalogue)
  @Header('Content-Disposition', 'attachment; filename="ulvane-catalogue.json"')
  async document(): Promise<z.infer<typeof CatalogueExportSchema>> {
    return exportCatalogue(await this.house.catalogue());
  }

  @Serves(api.previewCatalogue)
  async preview(
    @Input() { body }: InputOf<typeof api.previewCatalogue>,
  ): Promise<{ changes: readonly EntryChange[] }> {
    return { changes: await this.catalogue.preview(body) };
  }

  @Serves(api.importCatalogue)
  takeIn(
    @Input() { body }: InputOf<typeof api.importCatalogue>,
    @Actor() actor: ActorOfRequest,
  ): Promise<HouseView> {
    return this.catalogue.takeIn(body.version, body.document, actor.name);
  }

  @Serves(api.putCatalogueEntry)
  put(
    @Input() { params, body }: InputOf<typeof api.putCatalogueEntry>,
    @Actor() actor: ActorOfRequest,
  ): Promise<HouseView> {
    return this.catalogue.put(body.version, kindOf(params.kind), params.id, body.entry, actor.name);
  }

  @Serves(api.removeCatalogueEntry)
  remove(
    @Input() { params, body }: InputOf<typeof api.removeCatalogueEntry>,
    @Actor() actor: ActorOfRequest,
  ): Promise<HouseView> {
    return this.catalogue.put(body.version, kindOf(params.kind), params.id, null, actor.name);
  }
}
