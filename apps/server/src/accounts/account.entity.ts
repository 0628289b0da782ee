import { roles, type Role } from '@ulvane/core/record';
import { Column, Entity, PrimaryColumn } from 'typeorm';

@Entity('account')
export class AccountEntity {
  @PrimaryColumn('uuid')
  id: string;

  /** Counts up with every change: the optimistic lock. */
  @Column('int', { default: 1 })
  version: number;

  @Column('text')
  name: string;

  /** The name as names are compared; unique. */
  @Column('text', { name: 'name_key' })
  nameKey: string;

  @Column('enum', { enum: roles, enumName: 'role' })
  role: Role;

  @Column('text', { name: 'password_hash' })
  passwordHash: string;

  @Column('boolean', { default: false })
  disabled: boolean;

  /** Hash of the one-time link with which a new password is set, and until when. */
  @Column('text', { name: 'reset_hash', nullable: true })
  resetHash: string | null;

  @Column('timestamptz', { name: 'reset_until', nullable: true })
  resetUntil: Date | null;
}
