import type { ProofEvidenceView, ProofReading } from '@drive-keep/api';
import { Column, Entity, PrimaryGeneratedColumn } from 'typeorm';

/** What was read while somebody went through a step, and what follows from it. It never changes. */
@Entity()
export class ProofEvidence {
  @PrimaryGeneratedColumn('uuid') id: string;
  @Column('uuid') runId: string;
  @Column('text') step: string;
  @Column('text') state: ProofEvidenceView['state'];
  @Column('integer') stage: number;
  @Column('text') text: string;
  @Column('jsonb') likely: readonly string[];
  @Column('jsonb') figures: readonly string[];
  @Column('jsonb') readings: readonly ProofReading[];
  @Column('timestamptz') beganAt: Date;
  @Column('timestamptz') endedAt: Date;
  @Column('text') takenBy: string;
}
