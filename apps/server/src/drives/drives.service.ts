import { Injectable } from '@nestjs/common';
import { InjectRepository } from '@nestjs/typeorm';
import type { DriveView } from '@ulvane/contract';
import { contentOn, DriveSchema, freeOn, type Drive } from '@ulvane/core';
import { Not, Repository } from 'typeorm';
import { refuse } from '../http/problem';
import { MovesReader } from '../moves/moves.reader';
import { DriveEntity } from './drive.entity';

/** The inventory of backup drives and sticks, and what the moves have on them. */
@Injectable()
export class DrivesService {
  constructor(
    @InjectRepository(DriveEntity) private readonly drives: Repository<DriveEntity>,
    private readonly moves: MovesReader,
  ) {}

  async list(): Promise<DriveView[]> {
    const rows = await this.drives.find({ order: { name: 'ASC' } });
    const moves = await this.moves.onDrives(rows.map(({ id }) => id));
    return rows.map((row) => {
      const drive = DriveSchema.parse(row.body);
      const contents = moves.flatMap((move) => contentOn(drive.id, move));
      return { ...drive, version: row.version, contents, freeBytes: freeOn(drive, contents) };
    });
  }

  async put(id: string, version: number, given: Omit<Drive, 'id'>): Promise<DriveView> {
    const drive: Drive = { id, ...given };
    const present = await this.drives.findOneBy({ id });
    if ((present?.version ?? 0) !== version)
      throw refuse(
        409,
        'version',
        `${drive.name} has changed since you opened it. Nothing of yours was saved: look, then do it again.`,
        '/version',
      );
    const twin = await this.drives.findOneBy([
      { name: drive.name, id: Not(id) },
      ...(drive.serial === '' ? [] : [{ serial: drive.serial, id: Not(id) }]),
    ]);
    if (twin)
      throw refuse(
        422,
        'doubled-drive',
        twin.name === drive.name
          ? `There is a drive named ${drive.name} already: labels are told apart by their names.`
          : `The serial ${drive.serial} is that of ${twin.name}: is it the same drive?`,
        twin.name === drive.name ? '/drive/name' : '/drive/serial',
      );
    if (drive.otherBytes > drive.capacityBytes)
      throw refuse(422, 'contradiction', `${drive.name} has more taken than it holds.`, '/drive/otherBytes');
    await this.drives.save({ id, version: version + 1, name: drive.name, serial: drive.serial, body: drive });
    return this.one(id);
  }

  async remove(id: string, version: number): Promise<void> {
    const drive = await this.one(id);
    if (drive.version !== version)
      throw refuse(409, 'version', `${drive.name} has changed since you opened it: look, then do it again.`);
    if (drive.contents.length > 0)
      throw refuse(
        422,
        'drive-in-use',
        `${drive.name} holds backups of ${drive.contents.map(({ reference }) => reference).join(', ')}: wipe them first, and record it.`,
      );
    await this.drives.delete({ id });
  }

  private async one(id: string): Promise<DriveView> {
    const found = (await this.list()).find((drive) => drive.id === id);
    if (!found) throw refuse(404, 'no-such-drive', 'There is no such drive: somebody may have removed it.');
    return found;
  }
}
