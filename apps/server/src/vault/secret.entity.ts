import type { SecretKind } from '@ulvane/core/record';
import { Column, Entity, PrimaryColumn } from 'typeorm';

/** A secret, sealed; what it says stands nowhere in clear. */
@Entity('secret')
export class SecretEntity {
  @PrimaryColumn('uuid')
  id: string;

  @Column('uuid', { name: 'move_id' })
  moveId: string;

  @Column('text')
  kind: SecretKind;

  @Column('text')
  label: string;

  @Column('timestamptz')
  at: Date;

  @Column('text')
  by: string;

  @Column('text', { name: 'key_id' })
  keyId: string;

  @Column('bytea')
  nonce: Buffer;

  @Column('bytea')
  sealed: Buffer;

  @Column('int')
  showings: number;

  @Column('text', { name: 'last_shown_to', nullable: true })
  lastShownTo: string | null;
}
