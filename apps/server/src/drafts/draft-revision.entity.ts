import { Column, Entity, PrimaryGeneratedColumn } from 'typeorm';

/** A draft as it stood: the set, its wires, and the whole sheet with what was chosen and why. It never changes. */
@Entity()
export class DraftRevision {
  @PrimaryGeneratedColumn('uuid') id: string;
  @Column('uuid') draftId: string;
  @Column('integer') revision: number;
  @Column('text') dictionaryId: string;
  @Column('text') rating: string;
  @Column('text') region: string;
  @Column('text') contentHash: string;
  /** As a wiring is kept; empty where there is none. */
  @Column('text') wiring: string;
  /** Codes of the unit's own (address, lock) that somebody has chosen all the same. */
  @Column('text', { array: true }) chosen: string[];
  @Column('integer') changes: number;
  @Column('text', { select: false }) record: string;
  /** Over all that was kept of it. */
  @Column('text') hash: string;
  @Column('text') why: string;
  @Column('text') keptBy: string;
  @Column('timestamptz') keptAt: Date;
}
