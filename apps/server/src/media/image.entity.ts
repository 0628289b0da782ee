import { Column, Entity, PrimaryColumn } from 'typeorm';

/** An image at hand; `body` is core's `Image`, validated. */
@Entity('image')
export class ImageEntity {
  @PrimaryColumn('uuid')
  id: string;

  @Column('int')
  version: number;

  @Column('jsonb')
  body: unknown;
}
