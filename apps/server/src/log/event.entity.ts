import { Column, Entity, PrimaryGeneratedColumn } from 'typeorm';

/** One line of the log, chained to the line before. The database itself refuses to change or delete it. */
@Entity('event')
export class EventEntity {
  @PrimaryGeneratedColumn({ type: 'bigint' })
  id: string;

  /** Null: a line of the house. */
  @Column('uuid', { name: 'move_id', nullable: true })
  moveId: string | null;

  /** Place in its chain, from 1. */
  @Column('int')
  number: number;

  @Column('timestamptz')
  at: Date;

  @Column('text')
  by: string;

  @Column('text')
  kind: string;

  @Column('text')
  sentence: string;

  /** Who brought it with an imported move; null for a line of this house. */
  @Column('text', { name: 'imported_by', nullable: true })
  importedBy: string | null;

  /** The version of the move that came with it; null where it came with none, or before versions were noted. */
  @Column('int', { nullable: true })
  version: number | null;

  /** SHA-256 of the record after it; null where no record was known. */
  @Column('text', { name: 'record_hash', nullable: true })
  recordHash: string | null;

  /** The hash of the line before. */
  @Column('text')
  previous: string;

  @Column('text')
  hash: string;
}
