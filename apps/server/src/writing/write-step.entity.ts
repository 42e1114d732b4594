import type { StepPhase, StepReason } from '@drive-keep/api';
import type { Reading } from '@drive-keep/core/values';
import { Column, Entity, JoinColumn, ManyToOne, PrimaryColumn, type Relation } from 'typeorm';
import { StoredWritePlan } from './write-plan.entity.ts';
import { wholeNumber } from '../storage/whole-number.ts';

@Entity('write_step')
export class StoredWriteStep {
  @PrimaryColumn('uuid') planId: string;
  @PrimaryColumn('integer') place: number;
  @ManyToOne(() => StoredWritePlan, (plan) => plan.steps) @JoinColumn() plan: Relation<StoredWritePlan>;
  @Column('text') code: string;
  @Column('jsonb', { nullable: true }) fromReading: Reading | null;
  @Column({ type: 'bigint', transformer: wholeNumber }) toRaw: number;
  @Column('text') phase: StepPhase;
  @Column('jsonb') reason: StepReason;
  @Column('integer', { default: 0 }) busyMs: number;
  @Column('boolean') stopped: boolean;
  @Column('boolean') restart: boolean;
  @Column('text', { default: 'planned' }) state: 'planned' | 'writing' | 'written' | 'failed';
  @Column({ type: 'bigint', nullable: true, transformer: wholeNumber }) readBack: number | null;
  @Column('text', { default: '' }) text: string;
}
