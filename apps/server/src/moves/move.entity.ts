import { verdicts, type Verdict } from '@ulvane/core/assess';
import type { MeasuredCopy } from '@ulvane/core/backup';
import { stages, type DayReason, type PartVersions, type Stage } from '@ulvane/core/record';
import type { Fit } from '@ulvane/core/decide';
import type { TroubleId } from '@ulvane/core/runbook';
import { Column, Entity, PrimaryColumn } from 'typeorm';

type CauseFound = { sign: TroubleId; causeId: string };

/** A move: its record whole, and beside it the columns that lists are searched and sorted by. */
@Entity('move')
export class MoveEntity {
  @PrimaryColumn('uuid')
  id: string;

  @Column('text')
  reference: string;

  /** Counts up with every change: the optimistic lock. */
  @Column('int')
  version: number;

  /** At which version each part changed last; see core's `conflictingParts`. */
  @Column('jsonb', { name: 'part_versions', default: {} })
  partVersions: PartVersions;

  @Column('jsonb')
  record: unknown;

  /** Copies that were timed, for the estimates of other moves. */
  @Column('jsonb', { default: [] })
  measured: MeasuredCopy[];

  /** What was behind its troubles, for the order of causes in other moves. */
  @Column('jsonb', { name: 'causes_found', default: [] })
  causesFound: CauseFound[];

  @Column('text')
  device: string;

  @Column('text')
  serial: string;

  @Column('text')
  owner: string;

  @Column('text')
  site: string;

  @Column('enum', { enum: stages, enumName: 'stage' })
  stage: Stage;

  @Column('text')
  route: string;

  @Column('text')
  target: string;

  /** The present system's title, and its id in the catalogue, or what the survey calls it. */
  @Column('text')
  present: string;

  @Column('text', { name: 'present_id' })
  presentId: string;

  @Column('date', { name: 'due_on', nullable: true })
  dueOn: string | null;

  @Column('text')
  next: string;

  @Column('boolean')
  begun: boolean;

  @Column('text', { name: 'blocked_because', nullable: true })
  blockedBecause: string | null;

  @Column('text', { name: 'wait_title', nullable: true })
  waitTitle: string | null;

  @Column('timestamptz', { name: 'wait_started_at', nullable: true })
  waitStartedAt: Date | null;

  @Column('double precision', { name: 'wait_minutes', nullable: true })
  waitMinutes: number | null;

  @Column('enum', { enum: verdicts, enumName: 'verdict' })
  verdict: Verdict;

  /** What each release that still gets updates would take. */
  @Column('jsonb')
  fit: Fit;

  @Column('text')
  advice: string;

  /** The fix that unlocks most. */
  @Column('text', { nullable: true })
  unlock: string | null;

  /** Titles of parts that the route needs. */
  @Column('jsonb')
  parts: string[];

  /** The day on which somebody has to look at it again, and why. */
  @Column('date', { name: 'day_ahead', nullable: true })
  dayAhead: string | null;

  @Column('text', { name: 'day_reason', nullable: true })
  dayReason: DayReason | null;

  /** The first day on which a backup of it is to be wiped. */
  @Column('date', { name: 'wipe_on', nullable: true })
  wipeOn: string | null;

  /** Drives of the inventory that it has backups on. */
  @Column('jsonb', { name: 'drive_ids' })
  driveIds: string[];

  /** Catalogue, house rules and day that verdict, prices and advice were made with. */
  @Column('text', { name: 'assessed_for' })
  assessedFor: string;

  /** Where its log ends: lines, and the code of the last one. */
  @Column('int', { name: 'log_count' })
  logCount: number;

  @Column('text', { name: 'log_head' })
  logHead: string;

  /** Code of the record. */
  @Column('text', { name: 'record_hash' })
  recordHash: string;

  /** Why the record cannot be read; null where it can. */
  @Column('text', { nullable: true })
  unreadable: string | null;

  /** Everything that lists are searched by. */
  @Column('text')
  search: string;
}
