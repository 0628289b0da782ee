import { catalogueKinds, type CatalogueKind } from '@ulvane/core/catalogue';
import { Column, Entity, PrimaryColumn } from 'typeorm';

@Entity('catalogue_entry')
export class CatalogueEntryEntity {
  @PrimaryColumn('enum', { enum: catalogueKinds, enumName: 'catalogue_kind' })
  kind: CatalogueKind;

  @PrimaryColumn('text')
  id: string;

  @Column('int')
  position: number;

  @Column('jsonb')
  body: object;
}
