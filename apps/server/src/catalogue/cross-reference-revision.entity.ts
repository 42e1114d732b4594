import { Column, Entity, PrimaryColumn } from 'typeorm';

/** A cross-reference as the plant has written it, whole; the newest counts before what the catalogue ships. */
@Entity()
export class CrossReferenceRevision {
  /** Models, whatever their version. */
  @PrimaryColumn('text') old: string;
  @PrimaryColumn('text') fresh: string;
  @PrimaryColumn('integer') revision: number;
  @Column('text') content: string;
  @Column('text') savedBy: string;
  @Column({ type: 'timestamptz', insert: false }) savedAt: Date;
  @Column('text') why: string;
}
