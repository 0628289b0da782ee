import { Column, Entity, PrimaryColumn } from 'typeorm';

/** The one row that says whose house this is. */
@Entity('organisation')
export class OrganisationEntity {
  @PrimaryColumn('int')
  id: number;

  @Column('text')
  name: string;

  @Column('boolean')
  demo: boolean;

  /** The day of the first start, from which the shipped catalogue's support days count. */
  @Column('date', { name: 'first_day' })
  firstDay: string;

  @Column('jsonb', { name: 'practice' })
  houseRules: unknown;

  @Column('int', { name: 'practice_version' })
  houseRulesVersion: number;

  /** Counts up with every change of the catalogue. */
  @Column('int', { name: 'catalogue_version', default: 1 })
  catalogueVersion: number;

  /** Which column of a device list was which fact, the last time that one was imported. */
  @Column('jsonb', { name: 'list_mapping', default: {} })
  listMapping: object;

  @Column('text', { name: 'set_up_token_hash', nullable: true })
  setUpTokenHash: string | null;

  /** Where the log of the house ends: lines, and the code of the last one. */
  @Column('int', { name: 'log_count' })
  logCount: number;

  @Column('text', { name: 'log_head' })
  logHead: string;
}
