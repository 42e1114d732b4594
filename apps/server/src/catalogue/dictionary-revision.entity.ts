import { Column, Entity, PrimaryColumn } from 'typeorm';

/** A later wording of a kept dictionary: other texts and meanings for the same codes, ranges and defaults. */
@Entity('dictionary_revision')
export class DictionaryRevision {
  @PrimaryColumn('text') dictionaryId: string;
  /** From 2 on: the dictionary itself is the first. */
  @PrimaryColumn('integer') revision: number;
  @Column('text') modelFile: string;
  @Column('text') parametersFile: string;
  @Column('text', { nullable: true }) terminalsFile: string | null;
  @Column('text', { nullable: true }) faultsFile: string | null;
  @Column('text') filesHash: string;
  @Column('text', { nullable: true }) importedBy: string | null;
  @Column({ type: 'timestamptz', insert: false }) importedAt: Date;
}
