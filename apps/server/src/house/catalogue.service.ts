import { Injectable } from '@nestjs/common';
import {
  CatalogueChangeSchema,
  EntryChangeSchema,
  type CatalogueChange,
  type HouseView,
} from '@ulvane/contract';
import {
  catalogueChanges,
  catalogueKinds,
  importCatalogue,
  withEntry,
  type Catalogue,
  type CatalogueKind,
  type EntryChange,
} from '@ulvane/core/catalogue';
import { DataSource, type EntityManager } from 'typeorm';
import { Clock } from '../clock/clock';
import { Transactions } from '../database/transactions';
import { LogWriter } from '../log/logWriter';
import { ProblemError, refuse } from '../http/problem';
import { CatalogueChangeEntity } from './catalogueChange.entity';
import { CatalogueEntryEntity } from './catalogueEntry.entity';
import { HouseService } from './house.service';
import { OrganisationEntity } from './organisation.entity';

const conflict = () =>
  refuse(
    'catalogue-changed',
    'The catalogue was changed by someone else in the meantime. Nothing of yours was saved: look, then do it again.',
    '/version',
  );

/** Changes the catalogue: entries, their history and the version stand in one transaction. */
@Injectable()
export class CatalogueService {
  constructor(
    private readonly dataSource: DataSource,
    private readonly transactions: Transactions,
    private readonly log: LogWriter,
    private readonly house: HouseService,
    private readonly clock: Clock,
  ) {}

  /** Puts an entry in, or takes it out with null. */
  async put(
    version: number,
    kind: CatalogueKind,
    id: string,
    entry: unknown,
    by: string,
  ): Promise<HouseView> {
    const before = await this.house.catalogue();
    const outcome = withEntry(before, kind, id, entry);
    if (!outcome.ok) throw new ProblemError(outcome.problems);
    return this.store(version, before, outcome.value.catalogue, by);
  }

  async preview(document: unknown): Promise<readonly EntryChange[]> {
    return catalogueChanges(await this.house.catalogue(), await this.read(document));
  }

  async importDocument(version: number, document: unknown, by: string): Promise<HouseView> {
    return this.store(version, await this.house.catalogue(), await this.read(document), by);
  }

  async history(kind: CatalogueKind | '', id: string): Promise<CatalogueChange[]> {
    const rows = await this.dataSource.getRepository(CatalogueChangeEntity).find({
      where: { ...(kind === '' ? {} : { kind }), ...(id === '' ? {} : { entryId: id }) },
      order: { id: 'DESC' },
      take: 200,
    });
    return rows.map(({ at, by, change }) =>
      CatalogueChangeSchema.parse({ ...change, at: at.toISOString(), by }),
    );
  }

  private async read(document: unknown): Promise<Catalogue> {
    const { houseRules } = await this.house.house();
    const read = importCatalogue(document, this.clock.today(houseRules.timeZone));
    if (!read.ok) throw new ProblemError(read.problems);
    return read.value;
  }

  private async store(version: number, before: Catalogue, after: Catalogue, by: string): Promise<HouseView> {
    const changes = catalogueChanges(before, after);
    await this.transactions.run(async (manager) => {
      const row = await manager.findOneOrFail(OrganisationEntity, {
        where: { id: 1 },
        lock: { mode: 'pessimistic_write' },
      });
      if (row.catalogueVersion !== version) throw conflict();
      if (changes.length === 0) return;
      await manager.update(OrganisationEntity, { id: 1 }, { catalogueVersion: version + 1 });
      await this.write(manager, after, changes);
      await manager.insert(
        CatalogueChangeEntity,
        changes.map((change) => ({
          kind: change.kind,
          entryId: change.id,
          at: new Date(this.clock.now()),
          by,
          change: EntryChangeSchema.parse(change),
        })),
      );
      await this.log.writeHouse(
        manager,
        by,
        'catalogue-changed',
        `Catalogue: ${changes
          .slice(0, 5)
          .map(({ title, what }) => `${title} ${what}`)
          .join(', ')}${changes.length > 5 ? ` and ${changes.length - 5} more` : ''}.`,
      );
    });
    return this.house.house();
  }

  private async write(
    manager: EntityManager,
    after: Catalogue,
    changes: readonly EntryChange[],
  ): Promise<void> {
    for (const kind of catalogueKinds)
      for (const [position, body] of after[kind].entries())
        if (changes.some((change) => change.kind === kind && change.id === body.id))
          await manager.upsert(CatalogueEntryEntity, { kind, id: body.id, position, body }, ['kind', 'id']);
    for (const { kind, id, what } of changes)
      if (what === 'removed') await manager.delete(CatalogueEntryEntity, { kind, id });
  }
}
