import { Column, Entity, PrimaryColumn } from 'typeorm';

/** A starting point of the plant's own, or one of the catalogue as the plant wants it. A revision never changes. */
@Entity()
export class StartingPointRevision {
  @PrimaryColumn('text') id: string;
  @PrimaryColumn('integer') revision: number;
  @Column('text') content: string;
  @Column('text') savedBy: string;
  @Column({ type: 'timestamptz', insert: false }) savedAt: Date;
  @Column('text') why: string;
}
