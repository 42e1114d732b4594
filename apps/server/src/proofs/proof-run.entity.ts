import type { ProofScope } from '@drive-keep/api';
import type { ProofPlan } from '@drive-keep/core/prove';
import { Column, Entity, PrimaryGeneratedColumn } from 'typeorm';

/** What has to be seen at a machine, as it was worked out when the run began. It never changes. */
@Entity()
export class ProofRun {
  @PrimaryGeneratedColumn('uuid') id: string;
  @Column('uuid') positionId: string;
  @Column('uuid') unitId: string;
  @Column('bigint') serial: string;
  @Column('text') dictionaryId: string;
  @Column('text') setHash: string;
  @Column('text') setTitle: string;
  @Column('timestamptz', { nullable: true }) setAt: Date | null;
  @Column('integer') wiringRevision: number;
  @Column('text') scope: ProofScope;
  @Column('uuid', { nullable: true }) since: string | null;
  @Column('text') why: string;
  @Column('jsonb') plan: ProofPlan;
  @Column('integer') leftOut: number;
  @Column('text') startedBy: string;
  @Column('timestamptz') startedAt: Date;
}
