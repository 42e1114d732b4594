import { Column, Entity, PrimaryColumn } from 'typeorm';

/** One word that somebody has typed into one field; it is never changed, a later one counts. */
@Entity()
export class DraftField {
  @PrimaryColumn({ type: 'bigint', insert: false }) id: string;
  @Column('uuid') draftId: string;
  @Column('text') key: string;
  @Column('text') text: string;
  @Column('text') why: string;
  @Column('text') saidBy: string;
  @Column({ type: 'timestamptz', insert: false }) saidAt: Date;
}
