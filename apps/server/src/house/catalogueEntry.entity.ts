import { Column, Entity, PrimaryColumn } from 'typeorm';

export const catalogueKinds = ['families', 'releases', 'models', 'applications'] as const;
type CatalogueKind = (typeof catalogueKinds)[number];

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
