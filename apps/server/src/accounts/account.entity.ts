import { roles, type Role } from '@ulvane/core';
import { Column, Entity, PrimaryColumn } from 'typeorm';

@Entity('account')
export class AccountEntity {
  @PrimaryColumn('uuid')
  id: string;

  @Column('text')
  name: string;

  @Column('enum', { enum: roles, enumName: 'role' })
  role: Role;

  @Column('text', { name: 'password_hash' })
  passwordHash: string;

  @Column('boolean', { default: false })
  disabled: boolean;
}
