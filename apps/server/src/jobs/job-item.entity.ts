import type { OutcomeCode } from '@drive-keep/api';
import { Column, Entity, JoinColumn, ManyToOne, PrimaryColumn, type Relation } from 'typeorm';
import { Unit } from '../register/unit.entity.ts';
import { Job } from './job.entity.ts';

/** What a job does with one unit. */
@Entity()
export class JobItem {
  @PrimaryColumn('uuid') jobId: string;
  @PrimaryColumn('integer') place: number;
  @ManyToOne(() => Job, (job) => job.items) @JoinColumn() job: Relation<Job>;
  @ManyToOne(() => Unit) @JoinColumn() unit: Relation<Unit>;
  @Column('text', { default: 'waiting' }) state: 'waiting' | 'reading' | 'ended';
  @Column('integer', { default: 0 }) done: number;
  @Column('integer', { default: 0 }) total: number;
  @Column('text', { nullable: true }) outcome: OutcomeCode | null;
  @Column('text', { default: '' }) text: string;
  /** Serial number of another unit that answered in its place; a bigint, which the driver gives as text. */
  @Column('bigint', { nullable: true }) foundSerial: string | null;
  @Column('uuid', { nullable: true }) backupId: string | null;
  /** The unit holds what `backupId` holds, which is older; said in the record once the job has ended. */
  @Column('text', { nullable: true }) foundAgain: 'to-record' | 'recorded' | null;
  @Column('timestamptz', { nullable: true }) endedAt: Date | null;
}
