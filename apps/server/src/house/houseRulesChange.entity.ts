import { Column, Entity, PrimaryGeneratedColumn } from 'typeorm';

/** One change of house rules. The database itself refuses to change or delete it. */
@Entity('practice_change')
export class HouseRulesChangeEntity {
  @PrimaryGeneratedColumn({ type: 'bigint' })
  id: string;

  @Column('timestamptz')
  at: Date;

  @Column('text')
  by: string;

  /** What changed, a sentence each. */
  @Column('jsonb')
  sentences: string[];

  /** All house rules from then on. */
  @Column('jsonb', { name: 'practice' })
  houseRules: object;
}
