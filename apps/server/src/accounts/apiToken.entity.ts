import type { TokenScope } from '@ulvane/contract';
import { Column, Entity, PrimaryColumn } from 'typeorm';

/** A way in for programs. Only the token's hash is kept. */
@Entity('api_token')
export class ApiTokenEntity {
  @PrimaryColumn('uuid')
  id: string;

  @Column('uuid', { name: 'account_id' })
  accountId: string;

  @Column('text')
  name: string;

  @Column('text')
  scope: TokenScope;

  @Column('text')
  hash: string;

  /** The last four characters, to tell tokens apart. */
  @Column('text')
  ends: string;

  @Column('timestamptz', { name: 'created_at' })
  createdAt: Date;

  @Column('timestamptz', { name: 'last_used_at', nullable: true })
  lastUsedAt: Date | null;

  @Column('timestamptz', { name: 'revoked_at', nullable: true })
  revokedAt: Date | null;

  @Column('text', { name: 'revoked_by', nullable: true })
  revokedBy: string | null;
}
