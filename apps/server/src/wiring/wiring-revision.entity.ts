import { Column, Entity, PrimaryColumn } from 'typeorm';

/** A wiring as it was kept: its table as text, of which the hash is taken. */
@Entity('wiring_revision')
export class WiringRevision {
  @PrimaryColumn('uuid') positionId: string;
  @PrimaryColumn('integer') revision: number;
  /** The model for which it was made. */
  @Column('text') dictionaryId: string;
  @Column('text') content: string;
  @Column('text') hash: string;
  @Column('timestamptz') savedAt: Date;
  @Column('text') savedBy: string;
  @Column('text') why: string;
}
