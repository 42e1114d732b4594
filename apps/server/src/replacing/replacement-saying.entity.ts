import type { SaidValue, SayingPart } from '@drive-keep/core/replace';
import { Column, Entity, PrimaryColumn } from 'typeorm';

/** One word that somebody has said of one line; it is never changed, a later one counts. */
@Entity()
export class ReplacementSaying {
  @PrimaryColumn({ type: 'bigint', insert: false }) id: string;
  @Column('uuid') replacementId: string;
  @Column('text') part: SayingPart;
  @Column('text') line: string;
  @Column('jsonb', { nullable: true }) value: SaidValue | null;
  @Column('text') saidBy: string;
  @Column({ type: 'timestamptz', insert: false }) saidAt: Date;
  @Column('timestamptz') toldAt: Date;
}
