import { createHash, timingSafeEqual } from 'node:crypto';
import { Injectable } from '@nestjs/common';
import { InjectRepository } from '@nestjs/typeorm';
import type { HouseView } from '@ulvane/contract';
import { CatalogueSchema, PracticeSchema, type Catalogue, type Practice } from '@ulvane/core';
import { IsNull, Not, Repository } from 'typeorm';
import { refuse } from '../http/problem';
import { CatalogueEntryEntity, catalogueKinds } from './catalogueEntry.entity';
import { OrganisationEntity } from './organisation.entity';

export function hashOfToken(token: string): string {
  return createHash('sha256').update(token).digest('hex');
}

@Injectable()
export class HouseService {
  constructor(
    @InjectRepository(OrganisationEntity) private readonly organisations: Repository<OrganisationEntity>,
    @InjectRepository(CatalogueEntryEntity) private readonly entries: Repository<CatalogueEntryEntity>,
  ) {}

  private cached: Catalogue | undefined;

  /** The catalogue, parsed once: nothing edits it while the server runs. */
  async catalogue(): Promise<Catalogue> {
    this.cached ??= await this.readCatalogue();
    return this.cached;
  }

  async house(): Promise<HouseView> {
    const row = await this.row();
    return {
      catalogue: await this.catalogue(),
      practice: PracticeSchema.parse(row.practice),
      practiceVersion: row.practiceVersion,
    };
  }

  async organisation(): Promise<{ readonly name: string; readonly demo: boolean; readonly setUp: boolean }> {
    const { name, demo, setUpTokenHash } = await this.row();
    return { name, demo, setUp: setUpTokenHash === null };
  }

  async setPractice(version: number, practice: Practice): Promise<HouseView> {
    const result = await this.organisations.update(
      { id: 1, practiceVersion: version },
      { practice, practiceVersion: version + 1 },
    );
    if (result.affected !== 1)
      throw refuse(
        409,
        'practice-changed',
        'House practice was changed by someone else in the meantime: look again, then change it.',
      );
    return this.house();
  }

  /** Takes the one-time link; it is worth nothing afterwards. */
  async useSetUpToken(token: string, name: string): Promise<void> {
    const { setUpTokenHash } = await this.row();
    const given = Buffer.from(hashOfToken(token));
    const fits = setUpTokenHash !== null && timingSafeEqual(given, Buffer.from(setUpTokenHash));
    const result = fits
      ? await this.organisations.update(
          { id: 1, setUpTokenHash: Not(IsNull()) },
          { name, setUpTokenHash: null },
        )
      : undefined;
    if (result?.affected !== 1)
      throw refuse(
        403,
        'link-used',
        'This link has been used or is not the newest one: start Ulvane again to get a new one.',
        '/token',
      );
  }

  private async row(): Promise<OrganisationEntity> {
    const row = await this.organisations.findOneBy({ id: 1 });
    if (!row)
      throw refuse(503, 'not-seeded', 'The database has no organisation yet: start Ulvane with npm start.');
    return row;
  }

  private async readCatalogue(): Promise<Catalogue> {
    const rows = await this.entries.find({ order: { position: 'ASC' } });
    return CatalogueSchema.parse(
      Object.fromEntries(
        catalogueKinds.map((kind) => [kind, rows.filter((row) => row.kind === kind).map(({ body }) => body)]),
      ),
    );
  }
}
