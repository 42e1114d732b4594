import { Column, Entity, PrimaryColumn } from 'typeorm';

/** One line of the logbook; the database refuses to change or delete it. */
@Entity('logbook')
export class LogbookRow {
  @PrimaryColumn({ type: 'bigint', insert: false }) id: string;
  @Column({ type: 'timestamptz', insert: false }) at: Date;
  @Column('text') person: string;
  @Column('text') action: string;
  @Column('text', { nullable: true }) tag: string | null;
  @Column('text') text: string;
  @Column('jsonb') facts: object;
}
