import { randomUUID } from 'node:crypto';
import { setImmediate } from 'node:timers/promises';
import { Injectable } from '@nestjs/common';
import type { MoveView } from '@ulvane/contract';
import {
  differencesOf,
  findRelease,
  folderOfDifference,
  pathAt,
  placesTest,
  reconcileInSteps,
  recordCheck,
  recordReconciled,
  renameBack,
  renamer,
  rowsWhere,
  valueOf,
  type Catalogue,
  type Difference,
  type FileListHead,
  type Move,
  type PackedList,
  type Reconciliation,
} from '@ulvane/core';
import { DataSource, type QueryRunner } from 'typeorm';
import { HouseService } from '../house/house.service';
import type { ActorOfRequest } from '../http/serves';
import { MovesReader } from '../moves/moves.reader';
import { MovesWriter } from '../moves/moves.writer';
import { copyIn } from './copyIn';
import { inOneTransaction } from './inOneTransaction';
import { FileListsReader, listFor } from './fileLists.reader';

/** Compares in pieces: other requests get their turn in between. */
async function reconcileKindly(before: PackedList, after: PackedList): Promise<Reconciliation> {
  const steps = reconcileInSteps(before, after);
  for (;;) {
    const step = steps.next();
    if (step.done === true) return step.value;
    await setImmediate();
  }
}

/** Globs of what the families before and after make by themselves. */
function noiseFor(move: Move, catalogue: Catalogue): readonly string[] {
  const releases = [valueOf(move.facts, 'presentRelease'), move.decision?.releaseId ?? undefined];
  const families = releases.map((id) => findRelease(catalogue, id)?.family);
  return catalogue.families.filter(({ id }) => families.includes(id)).flatMap(({ noise }) => noise);
}

/** Compares lists of files, and stores what differs. */
@Injectable()
export class Comparing {
  constructor(
    private readonly dataSource: DataSource,
    private readonly lists: FileListsReader,
    private readonly moves: MovesReader,
    private readonly writer: MovesWriter,
    private readonly house: HouseService,
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
    let before = await this.beforeOf(move, beforeHead, dataSetId);
    const whole = before.count;
    if (copyHead.sampledFrom !== null) {
      const drawn = new Set(Array.from({ length: copy.count }, (_none, row) => pathAt(copy, row)));
      const all = before;
      before = rowsWhere(all, (row) => drawn.has(pathAt(all, row)));
    }
    const found = await reconcileKindly(before, copy);
    const noise = noiseFor(move, await this.house.catalogue());
    const wrong: Difference[] = [];
    // What is on the copy besides is no fault of the copy.
    for (const difference of differencesOf(found, before, copy, noise))
      if (difference.pathBefore !== null && difference.noise === null) wrong.push(difference);
    return this.writer.change(reference, version, actor, (current, context) =>
      recordCheck(
        current,
        {
          dataSetId,
          destinationId,
          check:
            copyHead.sampledFrom === null
              ? { method: 'full', files: before.count }
              : { method: 'sample', files: before.count, ofFiles: whole },
          count: wrong.length,
          files: wrong.slice(0, 200).map(({ kind, pathBefore }) => ({ kind, path: pathBefore ?? '' })),
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
    const found = await reconcileKindly(before, after);
    const patterns = noiseFor(move, await this.house.catalogue());
    const id = randomUUID();
    const old = move.reconciled.find((entry) => entry.dataSetId === dataSetId)?.id ?? null;
    return inOneTransaction(this.dataSource, async (runner) => {
      await copyIn(
        runner,
        'difference',
        columns,
        rowsOf(id, move, dataSetId, differencesOf(found, before, after, patterns)),
      );
      if (old !== null) await carryOver(runner, old, id);
      const [sums] = (await runner.query(
        `SELECT count(*) FILTER (WHERE noise IS NOT NULL)::int AS noise,
                count(*) FILTER (WHERE noise IS NULL AND reason IS NOT NULL)::int AS explained,
                count(*) FILTER (WHERE noise IS NULL AND reason IS NULL)::int AS open
         FROM difference WHERE reconciliation_id = $1`,
        [id],
      )) as { noise: number; explained: number; open: number }[];
      return this.writer.changeIn(
        runner.manager,
        reference,
        version,
        actor,
        (current, context) =>
          recordReconciled(
            current,
            {
              id,
              dataSetId,
              beforeId: beforeHead.id,
              afterId: afterHead.id,
              counts: found.counts,
              noise: sums?.noise ?? 0,
              explained: sums?.explained ?? 0,
              open: sums?.open ?? 0,
            },
            context,
          ),
        async () => {
          if (old !== null) await runner.query('DELETE FROM difference WHERE reconciliation_id = $1', [old]);
        },
      );
    });
  }
}

const columns = [
  'reconciliation_id',
  'ordinal',
  'kind',
  'folder',
  'path_before',
  'path_after',
  'size_before',
  'size_after',
  'sha256_after',
  'noise',
  'trouble',
  'reason',
  'reason_by',
];

/** Rows for the database; a name that is still the one of a destination is explained by its list of names. */
function* rowsOf(
  id: string,
  move: Move,
  dataSetId: string,
  differences: Iterable<Difference>,
): Generator<readonly (string | number | null)[]> {
  const renames = move.renames
    .filter((entry) => entry.dataSetId === dataSetId)
    .map(({ destinationId, names }) => ({
      there: renamer(names),
      name: move.destinations.find((destination) => destination.id === destinationId)?.name ?? destinationId,
    }));
  let ordinal = 0;
  for (const difference of differences) {
    const { kind, pathBefore, pathAfter, sizeBefore, sizeAfter, sha256After, noise, trouble } = difference;
    const renamed =
      pathBefore !== null && pathAfter !== null && pathBefore !== pathAfter
        ? renames.find(({ there }) => there(pathBefore) === pathAfter)
        : undefined;
    yield [
      id,
      ordinal,
      kind,
      folderOfDifference(difference),
      pathBefore,
      pathAfter,
      sizeBefore,
      sizeAfter,
      sha256After,
      noise,
      trouble,
      renamed
        ? `Still has the name that it got for ${renamed.name}; the list of names says which it was.`
        : null,
      renamed ? 'the list of names' : null,
    ];
    ordinal += 1;
  }
}

async function carryOver(runner: QueryRunner, from: string, to: string): Promise<void> {
  await runner.query(
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
