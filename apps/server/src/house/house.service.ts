import { createHash, timingSafeEqual } from 'node:crypto';
import { Injectable } from '@nestjs/common';
import { InjectRepository } from '@nestjs/typeorm';
import { ListMappingSchema, type HouseView, type ListMapping, type HouseRulesChange } from '@ulvane/contract';
import { MeasuredCopySchema, type MeasuredCopy } from '@ulvane/core/backup';
import { troubleIds } from '@ulvane/core/runbook';
import { catalogueKinds, CatalogueSchema, type Catalogue } from '@ulvane/core/catalogue';
import { parseWith } from '@ulvane/core/outcome';
import { houseRuleChanges, HouseRulesSchema, type HouseRules } from '@ulvane/core/rules';
import { z } from 'zod';
import { IsNull, Not, Repository, type EntityManager } from 'typeorm';
import { Clock } from '../clock/clock';
import { Transactions } from '../database/transactions';
import { refuse } from '../http/problem';
import { LogWriter } from '../log/logWriter';
import { CatalogueEntryEntity } from './catalogueEntry.entity';
import { OrganisationEntity } from './organisation.entity';
import { HouseRulesChangeEntity } from './houseRulesChange.entity';

/** Estimates need no more than the latest, and not of this very second. */
const maxTimedCopies = 300;

const CountedCauseSchema = z.object({
  sign: z.enum(troubleIds),
  cause: z.string(),
  times: z.int().min(1),
});
const maxTimedMoves = 2000;
const timedForMilliseconds = 30_000;

export function hashOfToken(token: string): string {
  return createHash('sha256').update(token).digest('hex');
}

/** Judging by a part of what the house goes by would be worse than not judging: it is said instead. */
function readable<S extends z.ZodType>(what: string, schema: S, value: unknown): z.output<S> {
  const read = parseWith(schema, value);
  if (read.ok) return read.value;
  throw refuse(
    'unreadable-house',
    `The ${what} of this house cannot be read (${read.problems[0]?.sentence ?? ''}): nothing is judged by a part of it. Have it repaired in the database, or restore a backup.`,
  );
}

@Injectable()
export class HouseService {
  constructor(
    @InjectRepository(OrganisationEntity) private readonly organisations: Repository<OrganisationEntity>,
    @InjectRepository(CatalogueEntryEntity) private readonly entries: Repository<CatalogueEntryEntity>,
    private readonly transactions: Transactions,
    private readonly log: LogWriter,
    private readonly clock: Clock,
  ) {}

  private cached: { readonly version: number; readonly catalogue: Catalogue } | undefined;

  /** The catalogue, parsed once a version: another server may have changed it. */
  async catalogue(): Promise<Catalogue> {
    return this.catalogueOf(await this.row());
  }

  private async catalogueOf({ catalogueVersion: version }: OrganisationEntity): Promise<Catalogue> {
    if (this.cached?.version === version) return this.cached.catalogue;
    const catalogue = await this.readCatalogue();
    this.cached = { version, catalogue };
    return catalogue;
  }

  async house(): Promise<HouseView> {
    const row = await this.row();
    return {
      catalogue: await this.catalogueOf(row),
      houseRules: readable('house rules', HouseRulesSchema, row.houseRules),
      houseRulesVersion: row.houseRulesVersion,
      catalogueVersion: row.catalogueVersion,
      timedCopies: await this.timedCopies(),
      troubleCounts: await this.troubleCounts(),
    };
  }

  private timed: { readonly at: number; readonly copies: readonly MeasuredCopy[] } | undefined;

  /** Copies that were timed, the newest first; read again after a while, as estimates need no more. */
  private async timedCopies(): Promise<MeasuredCopy[]> {
    if (!this.timed || performance.now() - this.timed.at > timedForMilliseconds) {
      const rows: { measured: unknown }[] = await this.organisations.query(
        `SELECT measured FROM move WHERE measured <> '[]'::jsonb LIMIT ${maxTimedMoves}`,
      );
      const copies = rows
        .flatMap(({ measured }) => {
          // An estimate stands without one that cannot be read.
          const read = z.array(MeasuredCopySchema).safeParse(measured);
          return read.success ? read.data : [];
        })
        .sort((a, b) => (a.at < b.at ? 1 : -1))
        .slice(0, maxTimedCopies);
      this.timed = { at: performance.now(), copies };
    }
    return [...this.timed.copies];
  }

  private counted: { readonly at: number; readonly counts: HouseView['troubleCounts'] } | undefined;

  /** How often each cause was found behind each sign; counted again after a while. */
  private async troubleCounts(): Promise<HouseView['troubleCounts']> {
    if (!this.counted || performance.now() - this.counted.at > timedForMilliseconds) {
      const rows: { sign: unknown; cause: unknown; times: unknown }[] = await this.organisations.query(
        `SELECT found ->> 'sign' AS sign, found ->> 'causeId' AS cause, count(*)::int AS times
         FROM move, jsonb_array_elements(causes_found) AS found
         WHERE causes_found <> '[]'::jsonb GROUP BY 1, 2`,
      );
      const counts: HouseView['troubleCounts'] = {};
      for (const row of rows) {
        const read = CountedCauseSchema.safeParse(row);
        // A sign of another release of Ulvane counts for none of this one.
        if (read.success)
          counts[read.data.sign] = { ...counts[read.data.sign], [read.data.cause]: read.data.times };
      }
      this.counted = { at: performance.now(), counts };
    }
    return this.counted.counts;
  }

  /** The next reader of the house counts the causes anew. */
  causeFound(): void {
    this.counted = undefined;
  }

  /** The next reader of the house reads the timed copies anew. */
  copiesTimed(): void {
    this.timed = undefined;
  }

  async organisation(): Promise<{ readonly name: string; readonly demo: boolean; readonly setUp: boolean }> {
    const { name, demo, setUpTokenHash } = await this.row();
    return { name, demo, setUp: setUpTokenHash === null };
  }

  /** Changes house rules and its history in one transaction; refused when it has changed meanwhile. */
  async setHouseRules(version: number, houseRules: HouseRules, by: string): Promise<HouseView> {
    await this.transactions.run(async (manager) => {
      const row = await manager.findOneOrFail(OrganisationEntity, {
        where: { id: 1 },
        lock: { mode: 'pessimistic_write' },
      });
      if (row.houseRulesVersion !== version)
        throw refuse(
          'practice-changed',
          'House rules were changed by someone else in the meantime: look again, then change it.',
        );
      const sentences = houseRuleChanges(
        readable('house rules', HouseRulesSchema, row.houseRules),
        houseRules,
      );
      if (sentences.length === 0) return;
      await manager.update(OrganisationEntity, { id: 1 }, { houseRules, houseRulesVersion: version + 1 });
      await manager.insert(HouseRulesChangeEntity, {
        at: new Date(this.clock.now()),
        by,
        sentences,
        houseRules,
      });
      await this.log.writeHouse(manager, by, 'house-rules-changed', sentences.join(' '));
    });
    return this.house();
  }

  async houseRulesHistory(): Promise<HouseRulesChange[]> {
    const rows = await this.organisations.manager.find(HouseRulesChangeEntity, {
      order: { id: 'DESC' },
      take: 50,
    });
    return rows.map(({ at, by, sentences }) => ({ at: at.toISOString(), by, sentences }));
  }

  /** Which column of a device list was which fact, last time; what no longer fits is forgotten. */
  async listMapping(): Promise<ListMapping> {
    const parsed = ListMappingSchema.safeParse((await this.row()).listMapping);
    return parsed.success ? parsed.data : {};
  }

  /** Remembers it, in the caller's transaction. */
  async keepListMapping(manager: EntityManager, listMapping: ListMapping): Promise<void> {
    await manager.update(OrganisationEntity, { id: 1 }, { listMapping });
  }

  /** Uses the one-time link up, in the caller's transaction; it is worth nothing afterwards. */
  async useSetUpToken(manager: EntityManager, token: string, name: string): Promise<void> {
    const row = await manager.findOneBy(OrganisationEntity, { id: 1 });
    const setUpTokenHash = row?.setUpTokenHash ?? null;
    const given = Buffer.from(hashOfToken(token));
    const fits = setUpTokenHash !== null && timingSafeEqual(given, Buffer.from(setUpTokenHash));
    const result = fits
      ? await manager.update(
          OrganisationEntity,
          { id: 1, setUpTokenHash: Not(IsNull()) },
          { name, setUpTokenHash: null },
        )
      : undefined;
    if (result?.affected !== 1)
      throw refuse(
        'link-used',
        'This link has been used or is not the newest one: start Ulvane again to get a new one.',
        '/token',
      );
  }

  private async row(): Promise<OrganisationEntity> {
    const row = await this.organisations.findOneBy({ id: 1 });
    if (!row)
      throw refuse('not-seeded', 'The database has no organisation yet: start Ulvane with npm start.');
    return row;
  }

  private async readCatalogue(): Promise<Catalogue> {
    const rows = await this.entries.find({ order: { position: 'ASC' } });
    return readable(
      'catalogue',
      CatalogueSchema,
      Object.fromEntries(
        catalogueKinds.map((kind) => [kind, rows.filter((row) => row.kind === kind).map(({ body }) => body)]),
      ),
    );
  }
}
