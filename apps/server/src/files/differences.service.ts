import { Injectable } from '@nestjs/common';
import type { DifferenceGroup, DifferenceLine, MoveView } from '@ulvane/contract';
import type { DifferenceKind } from '@ulvane/core/manifest';
import { formulaCell } from '@ulvane/core/outcome';
import { recordExplained, type ExplainedFile } from '@ulvane/core/record';
import Papa from 'papaparse';
import { DataSource } from 'typeorm';
import { Clock } from '../clock/clock';
import { refuse } from '../http/problem';
import type { ActorOfRequest } from '../http/serves';
import { MovesReader } from '../moves/moves.reader';
import { MovesWriter } from '../moves/moves.writer';

type Row = {
  readonly ordinal: number;
  readonly kind: DifferenceKind;
  readonly path_before: string | null;
  readonly path_after: string | null;
  readonly size_before: string | null;
  readonly size_after: string | null;
  readonly noise: string | null;
  readonly trouble: string | null;
  readonly reason: string | null;
  readonly reason_by: string | null;
};

const columns =
  'ordinal, kind, path_before, path_after, size_before, size_after, noise, trouble, reason, reason_by';
const numberOf = (text: string | null) => (text === null ? null : Number(text));

function lineOf(row: Row): DifferenceLine {
  return {
    ordinal: row.ordinal,
    kind: row.kind,
    pathBefore: row.path_before,
    pathAfter: row.path_after,
    sizeBefore: numberOf(row.size_before),
    sizeAfter: numberOf(row.size_after),
    noise: row.noise,
    trouble: row.trouble,
    reason: row.reason,
    reasonBy: row.reason_by,
  };
}

type Explanation = {
  readonly kind: DifferenceKind;
  readonly folder: string | null;
  readonly ordinals: readonly number[] | null;
  readonly reason: string | null;
};

/** Reads differences and keeps what is said of them. */
@Injectable()
export class DifferencesService {
  constructor(
    private readonly dataSource: DataSource,
    private readonly moves: MovesReader,
    private readonly writer: MovesWriter,
    private readonly clock: Clock,
  ) {}

  /** Refuses a comparison that the move does not have (any more). */
  async known(reference: string, id: string): Promise<void> {
    const { move } = await this.moves.one(reference);
    if (!move.reconciled.some((entry) => entry.id === id))
      throw refuse('no-such-comparison', 'That comparison has been made again: reload the page.');
  }

  async groups(id: string): Promise<DifferenceGroup[]> {
    const rows: {
      kind: DifferenceKind;
      folder: string;
      count: number;
      size: string;
      open: number;
      noise: number;
    }[] = await this.dataSource.query(
      `SELECT kind, folder, count(*)::int AS count,
                coalesce(sum(coalesce(size_before, size_after)), 0)::text AS size,
                count(*) FILTER (WHERE noise IS NULL AND reason IS NULL)::int AS open,
                count(*) FILTER (WHERE noise IS NOT NULL)::int AS noise
         FROM difference WHERE reconciliation_id = $1 GROUP BY kind, folder
         ORDER BY (count(*) FILTER (WHERE noise IS NULL AND reason IS NULL) > 0) DESC, kind, folder LIMIT 2000`,
      [id],
    );
    return rows.map(({ size, ...row }) => ({ ...row, sizeBytes: Number(size) }));
  }

  async differences(
    id: string,
    { kind, folder, after, limit }: { kind: DifferenceKind; folder: string; after: number; limit: number },
  ): Promise<DifferenceLine[]> {
    const rows: Row[] = await this.dataSource.query(
      `SELECT ${columns} FROM difference
       WHERE reconciliation_id = $1 AND kind = $2 AND folder = $3 AND ordinal > $4 ORDER BY ordinal LIMIT $5`,
      [id, kind, folder, after, limit],
    );
    return rows.map(lineOf);
  }

  /** Files that are not as they were, by name and with their reason; what a system made by itself is left out. */
  async named(
    ids: readonly string[],
    max: number,
  ): Promise<{ readonly files: readonly ExplainedFile[]; readonly fileCount: number }> {
    const rows: (Row & { readonly total: number })[] = await this.dataSource.query(
      `SELECT ${columns}, (count(*) OVER ())::int AS total FROM difference
       WHERE reconciliation_id = ANY($1) AND noise IS NULL
       ORDER BY kind, coalesce(path_after, path_before) LIMIT $2`,
      [ids, max],
    );
    return {
      fileCount: rows[0]?.total ?? 0,
      files: rows.map(({ kind, path_before, path_after, reason }) => ({
        path: path_before ?? path_after ?? '',
        kind: kind === 'missing' ? 'not here' : kind,
        reason: reason ?? 'No reason is given yet.',
      })),
    };
  }

  /** The CSV in pieces: every difference, with what was said of it. */
  async *csv(id: string): AsyncGenerator<string> {
    yield 'kind,before,after,bytes before,bytes after,made by the system,trouble,reason,said by\n';
    for (let after = -1; ;) {
      const rows: Row[] = await this.dataSource.query(
        `SELECT ${columns} FROM difference WHERE reconciliation_id = $1 AND ordinal > $2 ORDER BY ordinal LIMIT 5000`,
        [id, after],
      );
      const last = rows.at(-1);
      if (!last) return;
      after = last.ordinal;
      const text = Papa.unparse(
        rows.map((row) => [
          row.kind,
          row.path_before ?? '',
          row.path_after ?? '',
          row.size_before ?? '',
          row.size_after ?? '',
          row.noise ?? '',
          row.trouble ?? '',
          row.reason ?? '',
          row.reason_by ?? '',
        ]),
        { newline: '\n', escapeFormulae: formulaCell },
      );
      yield `${text}\n`;
    }
  }

  /** Sets or takes back the reason of differences, and counts anew what is open. */
  async explain(
    reference: string,
    version: number,
    actor: ActorOfRequest,
    id: string,
    { kind, folder, ordinals, reason }: Explanation,
  ): Promise<MoveView> {
    const said = reason?.trim() ?? null;
    if (said === '') throw refuse('no-reason', 'Say why: the reason is printed on the sheet.', '/reason');
    await this.known(reference, id);
    return this.writer.changeWith(reference, async (change, manager) => {
      const touched: unknown[] = await manager.query(
        `UPDATE difference SET reason = $3, reason_by = $4, reason_at = $5
         WHERE reconciliation_id = $1 AND kind = $2 AND noise IS NULL
           AND ($6::text IS NULL OR folder = $6) AND ($7::int[] IS NULL OR ordinal = ANY($7))
         RETURNING ordinal`,
        [
          id,
          kind,
          said,
          said === null ? null : actor.name,
          said === null ? null : this.clock.now(),
          folder,
          ordinals,
        ],
      );
      const count = Array.isArray(touched[0]) ? touched[0].length : touched.length;
      const [sums] = (await manager.query(
        `SELECT count(*) FILTER (WHERE noise IS NULL AND reason IS NOT NULL)::int AS explained,
                count(*) FILTER (WHERE noise IS NULL AND reason IS NULL)::int AS open
         FROM difference WHERE reconciliation_id = $1`,
        [id],
      )) as { explained: number; open: number }[];
      const files = `${count.toLocaleString('en')} ${kind}`;
      return change(version, actor, (move, context) =>
        recordExplained(
          move,
          {
            id,
            explained: sums?.explained ?? 0,
            open: sums?.open ?? 0,
            what: said === null ? `${files}: the reason was withdrawn.` : `${files}: ${said}`,
          },
          context,
        ),
      );
    });
  }
}
