import type { IdleView, UnreachableView, WritePlanKind, WritePlanState } from '@drive-keep/api';
import {
  Column,
  Entity,
  JoinColumn,
  ManyToOne,
  OneToMany,
  PrimaryGeneratedColumn,
  type Relation,
} from 'typeorm';
import { Position } from '../register/position.entity.ts';
import { Unit } from '../register/unit.entity.ts';
import { StoredWriteStep } from './write-step.entity.ts';

@Entity('write_plan')
export class StoredWritePlan {
  @PrimaryGeneratedColumn('uuid') id: string;
  @ManyToOne(() => Position) @JoinColumn() position: Relation<Position>;
  @ManyToOne(() => Unit) @JoinColumn() unit: Relation<Unit>;
  @Column('text') dictionaryId: string;
  @Column('text', { default: 'write' }) kind: WritePlanKind;
  /** The plan that this one goes on with or takes back. */
  @Column('uuid', { nullable: true }) follows: string | null;
  @Column('text') state: WritePlanState;
  @Column('text') target: string;
  @Column('text') plannedBy: string;
  @Column({ type: 'timestamptz', insert: false }) plannedAt: Date;
  /** Content that the unit held when the plan was made. */
  @Column('text') basisHash: string;
  @Column('text') predictedHash: string;
  @Column('jsonb') unreachable: UnreachableView[];
  @Column('jsonb') alreadyThere: string[];
  @Column('jsonb', { default: [] }) idle: IdleView[];
  /** Content right after a reset. */
  @Column('text', { nullable: true }) resetHash: string | null;
  @Column('boolean', { default: false }) restartCheck: boolean;
  @Column('text', { nullable: true }) releasedBy: string | null;
  @Column('timestamptz', { nullable: true }) releasedAt: Date | null;
  @Column('timestamptz', { nullable: true }) releasedUntil: Date | null;
  /** When it came to its end, or broke off. */
  @Column('timestamptz', { nullable: true }) endedAt: Date | null;
  @Column('text', { default: '' }) text: string;
  @Column('text', { default: '' }) holds: string;
  /** The permanent save was begun; whether it came to its end is known where `saved` says so. */
  @Column('boolean', { default: false }) saveBegun: boolean;
  @Column('boolean', { default: false }) saved: boolean;
  @Column('uuid', { nullable: true }) jobId: string | null;
  @Column('uuid', { nullable: true }) backupBefore: string | null;
  @Column('uuid', { nullable: true }) backupAfter: string | null;
  @OneToMany(() => StoredWriteStep, (step) => step.plan) steps: Relation<StoredWriteStep[]>;
}
