import type { DifferenceKind } from '@ulvane/core/manifest';
import { Column, Entity, PrimaryColumn } from 'typeorm';

/** One file that is not the same before and after, and what was said of it. */
@Entity('difference')
export class DifferenceEntity {
  @PrimaryColumn('uuid', { name: 'reconciliation_id' })
  reconciliationId: string;

  @PrimaryColumn('int')
  ordinal: number;

  @Column('text')
  kind: DifferenceKind;

  @Column('text')
  folder: string;

  @Column('text', { name: 'path_before', nullable: true })
  pathBefore: string | null;

  @Column('text', { name: 'path_after', nullable: true })
  pathAfter: string | null;

  @Column('bigint', { name: 'size_before', nullable: true })
  sizeBefore: string | null;

  @Column('bigint', { name: 'size_after', nullable: true })
  sizeAfter: string | null;

  @Column('text', { name: 'sha256_after', nullable: true })
  sha256After: string | null;

  @Column('text', { nullable: true })
  noise: string | null;

  @Column('text', { nullable: true })
  trouble: string | null;

  @Column('text', { nullable: true })
  reason: string | null;

  @Column('text', { name: 'reason_by', nullable: true })
  reasonBy: string | null;

  @Column('timestamptz', { name: 'reason_at', nullable: true })
  reasonAt: Date | null;
}
