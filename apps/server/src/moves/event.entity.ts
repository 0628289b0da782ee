import { Column, Entity, PrimaryGeneratedColumn } from 'typeorm';

/** One line of the log. The database itself refuses to change or delete it. */
@Entity('event')
export class EventEntity {
  @PrimaryGeneratedColumn({ type: 'bigint' })
  id: string;

  @Column('uuid', { name: 'move_id', nullable: true })
  moveId: string | null;

  @Column('timestamptz')
  at: Date;

  @Column('text')
  by: string;

  @Column('text')
  kind: string;

  @Column('text')
  sentence: string;
}
