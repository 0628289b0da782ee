import { randomUUID } from 'node:crypto';
import { Injectable } from '@nestjs/common';
import type { MoveView } from '@ulvane/contract';
import { placesTest, renameBack, type FileListHead } from '@ulvane/core/backup';
import { findRelease, type Catalogue } from '@ulvane/core/catalogue';
import type { PackedList } from '@ulvane/core/manifest';
import { recordCheck, recordReconciled, type Move } from '@ulvane/core/record';
import { valueOf } from '@ulvane/core/survey';
import { DataSource, type EntityManager } from 'typeorm';
import { HouseService } from '../house/house.service';
import type { ActorOfRequest } from '../http/serves';
import { MovesReader } from '../moves/moves.reader';
import { MovesWriter } from '../moves/moves.writer';
import { differenceColumns } from '../threads/compareTask';
import { memoryOf, Workers } from '../threads/workers';
import { copyIn } from './copyIn';
import { FileListsReader, listFor } from './fileLists.reader';

/** Globs of what the families before and after make by themselves. */
function noiseFor(move: Move, catalogue: Catalogue): readonly string[] {
  const releases = [valueOf(move.facts, 'presentRelease'), move.decision?.releaseId ?? undefined];
  const families = releases.map((id) => findRelease(catalogue, id)?.family);
  return catalogue.families.filter(({ id }) => families.includes(id)).flatMap(({ noise }) => noise);
}

/** Compares lists of files in a thread of its own, and stores what differs. */
@Injectable()
export class Comparing {
  constructor(
    private readonly dataSource: DataSource,
    private readonly lists: FileListsReader,
    private readonly moves: MovesReader,
    private readonly writer: MovesWriter,
    private readonly house: HouseService,
    private readonly workers: Workers,
  ) {}

  private beforeOf(move: Move, head: FileListHead, dataSetId: string): Promise<PackedList> {
    const part = move.dataSets.find(({ id }) => id === dataSetId)?.part;
    return this.lists.packed(this.dataSource.manager, head, part ? placesTest(part.places) : undefined);
  }

  /** Compares a copy with the data set, as a whole or in the files that were drawn. */
  async check(
    reference: string,
    version: number,
    actor: ActorOfRequest,
    { dataSetId, destinationId }: { readonly dataSetId: string; readonly destinationId: string },
  ): Promise<MoveView> {
    const { move } = await this.moves.one(reference);
    const beforeHead = listFor(move, dataSetId, 'before');
    const copyHead = listFor(move, dataSetId, 'copy', destinationId);
    const names = move.renames.find(
      (entry) => entry.dataSetId === dataSetId && entry.destinationId === destinationId,
    )?.names;
    const copy = await this.lists.packed(
      this.dataSource.manager,
      copyHead,
      undefined,
      names ? renameBack(names) : undefined,
    );
    const before = await this.beforeOf(move, beforeHead, dataSetId);
    const sampled = copyHead.sampledFrom !== null;
    const { compared, whole, count, files } = await this.workers.run(
      'checkCopyTask',
      { before, copy, sampled },
      memoryOf(before, copy),
    );
    return this.writer.change(reference, version, actor, (current, context) =>
      recordCheck(
        current,
        {
          dataSetId,
          destinationId,
          check: sampled
            ? { method: 'sample', files: compared, ofFiles: whole }
            : { method: 'full', files: compared },
          count,
          files: [...files],
        },
        context,
      ),
    );
  }

  /** Compares a data set before and after; what was explained before and still is so stays explained. */
  async reconcile(
    reference: string,
    version: number,
    actor: ActorOfRequest,
    dataSetId: string,
  ): Promise<MoveView> {
    const { move } = await this.moves.one(reference);
    const beforeHead = listFor(move, dataSetId, 'before');
    const afterHead = listFor(move, dataSetId, 'after');
    const before = await this.beforeOf(move, beforeHead, dataSetId);
    const after = await this.lists.packed(this.dataSource.manager, afterHead);
    const noise = noiseFor(move, await this.house.catalogue());
    const id = randomUUID();
    const old = move.reconciled.find((entry) => entry.dataSetId === dataSetId)?.id ?? null;
    return this.workers.withFile(async (into) => {
      const { renames, destinations } = move;
      const counts = await this.workers.run(
        'reconcileTask',
        { id, move: { renames, destinations }, dataSetId, before, after, noise, into },
        memoryOf(before, after),
      );
      return this.writer.changeWith(reference, async (change, manager) => {
        await copyIn(manager, 'difference', differenceColumns, into);
        if (old !== null) await carryOver(manager, old, id);
        const [sums] = (await manager.query(
          `SELECT count(*) FILTER (WHERE noise IS NOT NULL)::int AS noise,
                  count(*) FILTER (WHERE noise IS NULL AND reason IS NOT NULL)::int AS explained,
                  count(*) FILTER (WHERE noise IS NULL AND reason IS NULL)::int AS open
           FROM difference WHERE reconciliation_id = $1`,
          [id],
        )) as { noise: number; explained: number; open: number }[];
        return change(version, actor, (current, context) =>
          recordReconciled(
            current,
            {
              id,
              dataSetId,
              beforeId: beforeHead.id,
              afterId: afterHead.id,
              counts,
              noise: sums?.noise ?? 0,
              explained: sums?.explained ?? 0,
              open: sums?.open ?? 0,
            },
            context,
          ),
        );
      });
    });
  }
}

async function carryOver(manager: EntityManager, from: string, to: string): Promise<void> {
  await manager.query(
    `UPDATE difference AS new SET reason = old.reason, reason_by = old.reason_by, reason_at = old.reason_at
     FROM difference AS old
     WHERE new.reconciliation_id = $2 AND old.reconciliation_id = $1 AND old.reason IS NOT NULL
       AND new.kind = old.kind
       AND new.path_before IS NOT DISTINCT FROM old.path_before
       AND new.path_after IS NOT DISTINCT FROM old.path_after
       AND new.size_before IS NOT DISTINCT FROM old.size_before
       AND new.size_after IS NOT DISTINCT FROM old.size_after
       -- What was said of one content is not said of another one of the same size.
       AND new.sha256_after IS NOT DISTINCT FROM old.sha256_after
       AND new.kind <> 'unproven'`,
    [from, to],
  );
}
