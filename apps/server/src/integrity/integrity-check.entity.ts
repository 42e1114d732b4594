import type { IntegrityReport } from '@drive-keep/api';
import { Column, Entity, PrimaryGeneratedColumn } from 'typeorm';

/** One check of everything that was kept, and what it found. */
@Entity()
export class IntegrityCheck {
  @PrimaryGeneratedColumn({ type: 'bigint' }) id: string;
  /** The day for which it was due; nothing for one that somebody has asked for. */
  @Column('date', { nullable: true }) due: string | null;
  @Column('text') person: string;
  @Column({ type: 'timestamptz', insert: false }) begunAt: Date;
  @Column('jsonb', { nullable: true }) report: IntegrityReport | null;
}
