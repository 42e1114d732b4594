import { Column, Entity, PrimaryColumn } from 'typeorm';

/** The one plant that this installation keeps. */
@Entity()
export class Plant {
  @PrimaryColumn('boolean') id: true;
  @Column('text') name: string;
  /** A baseline is signed by another person than the one who proposed it. */
  @Column('boolean', { default: false }) secondSignature: boolean;
  @Column({ type: 'timestamptz', insert: false }) madeAt: Date;
}
