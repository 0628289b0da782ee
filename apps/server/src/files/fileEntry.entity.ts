import { Column, Entity, PrimaryColumn } from 'typeorm';

/** One line of a list of files. Its list's head stands in the move's record. */
@Entity('file_entry')
export class FileEntryEntity {
  @PrimaryColumn('uuid', { name: 'list_id' })
  listId: string;

  @PrimaryColumn('int')
  ordinal: number;

  @Column('text')
  path: string;

  @Column('bigint', { name: 'size_bytes', nullable: true })
  sizeBytes: string | null;

  @Column('bytea', { nullable: true })
  sha256: Buffer | null;

  @Column('bigint', { name: 'modified_ms', nullable: true })
  modifiedMs: string | null;

  @Column('text', { nullable: true })
  trouble: string | null;
}
