import { Column, Entity, PrimaryColumn } from 'typeorm';

/** A backup drive or stick of the house; `body` is core's `Drive`, validated. */
@Entity('drive')
export class DriveEntity {
  @PrimaryColumn('uuid')
  id: string;

  @Column('int')
  version: number;

  @Column('text')
  name: string;

  @Column('text')
  serial: string;

  @Column('jsonb')
  body: unknown;
}
