import { Injectable } from '@nestjs/common';
import { InjectRepository } from '@nestjs/typeorm';
import type { ImageView, ShelfView } from '@ulvane/contract';
import { ImageSchema, type Image } from '@ulvane/core/media';
import { parseWith } from '@ulvane/core/outcome';
import { mediumNeed } from '@ulvane/core/record';
import { Logger } from 'nestjs-pino';
import { Repository } from 'typeorm';
import { Transactions } from '../database/transactions';
import { DrivesService } from '../drives/drives.service';
import { HouseService } from '../house/house.service';
import { ProblemError, refuse } from '../http/problem';
import { MovesReader } from '../moves/moves.reader';
import { ImageEntity } from './image.entity';

const conflict = () =>
  refuse(
    'version',
    'This image has changed since you opened it. Nothing of yours was saved: look, then do it again.',
    '/version',
  );

/** The media shelf: installer media, images at hand, and what the next moves need. */
@Injectable()
export class ShelfService {
  constructor(
    @InjectRepository(ImageEntity) private readonly images: Repository<ImageEntity>,
    private readonly transactions: Transactions,
    private readonly drives: DrivesService,
    private readonly moves: MovesReader,
    private readonly house: HouseService,
    private readonly logger: Logger,
  ) {}

  async shelf(): Promise<ShelfView> {
    const [media, rows, moves, house] = await Promise.all([
      this.drives.list(),
      this.images.find(),
      this.moves.forShelf(),
      this.house.house(),
    ]);
    return {
      media: media.filter(({ purpose }) => purpose === 'installer'),
      images: rows
        .flatMap((row) => this.viewsOf(row))
        .sort((a, b) => a.releaseId.localeCompare(b.releaseId) || a.id.localeCompare(b.id)),
      needs: moves.flatMap((move) => mediumNeed(move, house) ?? []),
    };
  }

  /** An image whose entry cannot be read is left off, so that it hinders none of the others. */
  private viewsOf({ id, version, body }: ImageEntity): readonly ImageView[] {
    const image = parseWith(ImageSchema, body);
    if (image.ok) return [{ ...image.value, version }];
    this.logger.error(`the entry of the image ${id} cannot be read: ${image.problems[0]?.sentence ?? ''}`);
    return [];
  }

  async put(id: string, version: number, given: Omit<Image, 'id'>): Promise<ImageView> {
    const storable = parseWith(ImageSchema, JSON.parse(JSON.stringify({ id, ...given })));
    if (!storable.ok) throw new ProblemError(storable.problems);
    await this.transactions.run(async (manager) => {
      const present = await manager.findOne(ImageEntity, {
        where: { id },
        lock: { mode: 'pessimistic_write' },
      });
      if ((present?.version ?? 0) !== version) throw conflict();
      const row = { version: version + 1, body: storable.value };
      if (present) await manager.update(ImageEntity, { id }, row);
      else await manager.insert(ImageEntity, { id, ...row });
    });
    return { ...storable.value, version: version + 1 };
  }

  async remove(id: string, version: number): Promise<void> {
    const { affected } = await this.transactions.run((manager) =>
      manager.delete(ImageEntity, { id, version }),
    );
    if (affected !== 1) throw conflict();
  }
}
