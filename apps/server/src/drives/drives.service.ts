import { Injectable } from '@nestjs/common';
import { InjectRepository } from '@nestjs/typeorm';
import type { DriveView } from '@ulvane/contract';
import { contentOn, DriveSchema, freeOn, type Drive } from '@ulvane/core/backup';
import { parseWith } from '@ulvane/core/outcome';
import { Logger } from 'nestjs-pino';
import { Not, Repository } from 'typeorm';
import { Transactions } from '../database/transactions';
import { ProblemError, refuse } from '../http/problem';
import { MovesReader } from '../moves/moves.reader';
import { DriveEntity } from './drive.entity';

function conflict(name: string) {
  return refuse(
    'version',
    `${name} has changed since you opened it. Nothing of yours was saved: look, then do it again.`,
    '/version',
  );
}

/** The inventory of backup drives and sticks, and what the moves have on them. */
@Injectable()
export class DrivesService {
  constructor(
    @InjectRepository(DriveEntity) private readonly drives: Repository<DriveEntity>,
    private readonly transactions: Transactions,
    private readonly moves: MovesReader,
    private readonly logger: Logger,
  ) {}

  async list(): Promise<DriveView[]> {
    return this.viewsOf(await this.drives.find({ order: { name: 'ASC' } }));
  }

  /** A drive whose entry cannot be read is left off, so that it hinders none of the others. */
  private async viewsOf(rows: readonly DriveEntity[]): Promise<DriveView[]> {
    const moves = await this.moves.onDrives(rows.map(({ id }) => id));
    return rows.flatMap((row) => {
      const drive = parseWith(DriveSchema, row.body);
      if (!drive.ok) {
        this.logger.error(
          `the entry of the drive ${row.name} cannot be read: ${drive.problems[0]?.sentence ?? ''}`,
        );
        return [];
      }
      const contents = moves.flatMap((move) => contentOn(drive.value.id, move));
      return [{ ...drive.value, version: row.version, contents, freeBytes: freeOn(drive.value, contents) }];
    });
  }

  async put(id: string, version: number, given: Omit<Drive, 'id'>): Promise<DriveView> {
    const drive: Drive = { id, ...given };
    if (drive.otherBytes > drive.capacityBytes)
      throw refuse('contradiction', `${drive.name} has more taken than it holds.`, '/drive/otherBytes');
    const storable = parseWith(DriveSchema, JSON.parse(JSON.stringify(drive)));
    if (!storable.ok) throw new ProblemError(storable.problems);
    await this.transactions.run(async (manager) => {
      const present = await manager.findOne(DriveEntity, {
        where: { id },
        lock: { mode: 'pessimistic_write' },
      });
      if ((present?.version ?? 0) !== version) throw conflict(drive.name);
      const twin = await manager.findOneBy(DriveEntity, [
        { name: drive.name, id: Not(id) },
        ...(drive.serial === '' ? [] : [{ serial: drive.serial, id: Not(id) }]),
      ]);
      if (twin)
        throw refuse(
          'doubled-drive',
          twin.name === drive.name
            ? `There is a drive named ${drive.name} already: labels are identified by their names.`
            : `The serial ${drive.serial} is that of ${twin.name}: is it the same drive?`,
          twin.name === drive.name ? '/drive/name' : '/drive/serial',
        );
      const row = { version: version + 1, name: drive.name, serial: drive.serial, body: storable.value };
      if (present) await manager.update(DriveEntity, { id }, row);
      else await manager.insert(DriveEntity, { id, ...row });
    });
    return this.one(id);
  }

  async remove(id: string, version: number): Promise<void> {
    const drive = await this.one(id);
    if (drive.version !== version) throw conflict(drive.name);
    if (drive.contents.length > 0)
      throw refuse(
        'drive-in-use',
        `${drive.name} holds backups of ${drive.contents.map(({ reference }) => reference).join(', ')}: wipe them first, and record it.`,
      );
    const { affected } = await this.transactions.run((manager) =>
      manager.delete(DriveEntity, { id, version }),
    );
    if (affected !== 1) throw conflict(drive.name);
  }

  private async one(id: string): Promise<DriveView> {
    const [found] = await this.viewsOf(await this.drives.findBy({ id }));
    if (!found) throw refuse('no-such-drive', 'There is no such drive: somebody may have removed it.');
    return found;
  }
}
