import type { ProofVerdict } from '@drive-keep/api';
import { Column, Entity, PrimaryColumn } from 'typeorm';

/** One word that somebody has said of one step; it is never changed, a later one counts. */
@Entity()
export class ProofSaying {
  @PrimaryColumn({ type: 'bigint', insert: false }) id: string;
  @Column('uuid') runId: string;
  @Column('text') step: string;
  @Column('text', { nullable: true }) verdict: ProofVerdict | null;
  @Column('text') seen: string;
  @Column('uuid', { nullable: true }) evidenceId: string | null;
  @Column('text') saidBy: string;
  @Column('timestamptz') saidAt: Date;
  @Column('timestamptz') toldAt: Date;
}
