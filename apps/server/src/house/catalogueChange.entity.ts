import { catalogueKinds, type CatalogueKind } from '@ulvane/core/catalogue';
import { Column, Entity, PrimaryGeneratedColumn } from 'typeorm';

/** One change of one catalogue entry. The database itself refuses to change or delete it. */
@Entity('catalogue_change')
export class CatalogueChangeEntity {
  @PrimaryGeneratedColumn({ type: 'bigint' })
  id: string;

  @Column('enum', { enum: catalogueKinds, enumName: 'catalogue_kind' })
  kind: CatalogueKind;

  @Column('text', { name: 'entry_id' })
  entryId: string;

  @Column('timestamptz')
  at: Date;

  @Column('text')
  by: string;

  /** As core's `EntryChange`. */
  @Column('jsonb')
  change: object;
}
