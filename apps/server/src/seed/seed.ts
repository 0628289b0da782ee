import { randomBytes } from 'node:crypto';
import { catalogueKinds, resolveCatalogue, type Catalogue } from '@ulvane/core/catalogue';
import { defaultHouseRules } from '@ulvane/core/rules';
import { generateDemo, type RecordedMove } from '@ulvane/demo';
import { DataSource, type EntityManager } from 'typeorm';
import catalogueFile from '../../../../data/catalogue/catalogue.json';
import demoTables from '../../../../data/demo/organisation.json';
import { AccountsService } from '../accounts/accounts.service';
import { Clock } from '../clock/clock';
import { hashOf } from '../accounts/passwords';
import { Transactions } from '../database/transactions';
import { DriveEntity } from '../drives/drive.entity';
import { ImageEntity } from '../media/image.entity';
import { DifferenceEntity } from '../files/difference.entity';
import { FileEntryEntity } from '../files/fileEntry.entity';
import { CatalogueEntryEntity } from '../house/catalogueEntry.entity';
import { hashOfToken } from '../house/house.service';
import { OrganisationEntity } from '../house/organisation.entity';
import { MovesWriter } from '../moves/moves.writer';

export const demoPassword = 'marram-pier-five';
export const demoAccounts = ['technician', 'lead', 'observer'] as const;

/** Chosen once; the same seed gives the same sixty devices. */
const demoSeed = 20260302;

type SeedServices = {
  readonly dataSource: DataSource;
  readonly transactions: Transactions;
  readonly accounts: AccountsService;
  readonly writer: MovesWriter;
  readonly clock: Clock;
};

export type Seeded = {
  readonly kind: 'demo' | 'own';
  readonly setUpToken: string | null;
  readonly loaded: boolean;
};

/** What a new database starts with: the shipped catalogue, and the demo or an empty house. */
export async function seed(
  { dataSource, transactions, accounts, writer, clock }: SeedServices,
  kind: 'demo' | 'empty',
): Promise<Seeded> {
  const organisations = dataSource.getRepository(OrganisationEntity);
  const present = await organisations.findOneBy({ id: 1 });
  if (present) {
    // The link is printed once a start; starting again makes a new one.
    const setUpToken = present.setUpTokenHash === null ? null : await renewToken(dataSource);
    return { kind: present.demo ? 'demo' : 'own', setUpToken, loaded: false };
  }
  const now = clock.now();
  const catalogue = resolveCatalogue(catalogueFile, now.slice(0, 10));
  if (!catalogue.ok)
    throw new Error(
      `data/catalogue/catalogue.json: ${catalogue.problems.map(({ sentence }) => sentence).join(' ')}`,
    );
  const demo =
    kind === 'demo'
      ? generateDemo({
          tables: demoTables,
          catalogue: catalogue.value,
          houseRules: defaultHouseRules,
          now,
          seed: demoSeed,
        })
      : undefined;
  const token = randomBytes(24).toString('base64url');
  const passwordHash = demo ? await hashOf(demoPassword) : '';
  await transactions.run(async (manager) => {
    await manager.insert(OrganisationEntity, {
      id: 1,
      name: demo?.organisation ?? '',
      demo: demo !== undefined,
      firstDay: now.slice(0, 10),
      houseRules: defaultHouseRules,
      houseRulesVersion: 1,
      setUpTokenHash: demo ? null : hashOfToken(token),
    });
    await manager.insert(CatalogueEntryEntity, entriesOf(catalogue.value));
    for (const recorded of demo?.moves ?? []) {
      await writer.insertMany(manager, [recorded], {
        catalogue: catalogue.value,
        houseRules: defaultHouseRules,
        catalogueVersion: 1,
        houseRulesVersion: 1,
      });
      await insertFiles(manager, recorded, now);
    }
    for (const drive of demo?.drives ?? [])
      await manager.insert(DriveEntity, {
        id: drive.id,
        version: 1,
        name: drive.name,
        serial: drive.serial,
        body: drive,
      });
    for (const image of demo?.images ?? [])
      await manager.insert(ImageEntity, { id: image.id, version: 1, body: image });
    if (!demo) return;
    await manager.query(`SELECT setval('move_reference', $1)`, [demo.moves.length]);
    for (const role of demoAccounts)
      await accounts.insert(manager, { name: role, role, passwordHash }, 'the demo');
  });
  return { kind: demo ? 'demo' : 'own', setUpToken: demo ? null : token, loaded: true };
}

/** The lines of a demo move's lists, and of their comparisons. */
async function insertFiles(
  manager: EntityManager,
  { lists, differences }: Pick<RecordedMove, 'lists' | 'differences'>,
  now: string,
): Promise<void> {
  for (const { id, entries } of lists)
    await manager.insert(
      FileEntryEntity,
      entries.map(({ path, sizeBytes, sha256, modifiedMs, trouble }, ordinal) => ({
        listId: id,
        ordinal,
        path,
        sizeBytes: sizeBytes === null ? null : String(sizeBytes),
        sha256: sha256 === null ? null : Buffer.from(sha256, 'hex'),
        modifiedMs: modifiedMs === null ? null : String(modifiedMs),
        trouble,
      })),
    );
  for (const { id, by, rows } of differences)
    await manager.insert(
      DifferenceEntity,
      rows.map(({ sizeBefore, sizeAfter, reason, ...row }, ordinal) => ({
        ...row,
        reconciliationId: id,
        ordinal,
        sizeBefore: sizeBefore === null ? null : String(sizeBefore),
        sizeAfter: sizeAfter === null ? null : String(sizeAfter),
        reason,
        reasonBy: reason === null ? null : by,
        reasonAt: reason === null ? null : new Date(now),
      })),
    );
}

async function renewToken(dataSource: DataSource): Promise<string> {
  const token = randomBytes(24).toString('base64url');
  await dataSource
    .getRepository(OrganisationEntity)
    .update({ id: 1 }, { setUpTokenHash: hashOfToken(token) });
  return token;
}

function entriesOf(catalogue: Catalogue): CatalogueEntryEntity[] {
  return catalogueKinds.flatMap((kind) =>
    catalogue[kind].map((body, position) => ({ kind, id: body.id, position, body })),
  );
}
