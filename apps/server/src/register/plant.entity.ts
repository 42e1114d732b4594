import { Column, Entity, PrimaryColumn } from 'typeorm';

/** The one plant that this installation keeps. */
@Entity()
export class Plant {
  @PrimaryColumn('boolean') id: true;
  @Column('text') name: string;
  @Column({ type: 'timestamptz', insert: false }) madeAt: Date;
}
