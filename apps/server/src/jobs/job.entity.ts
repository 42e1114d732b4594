import type { JobKind, JobState } from '@drive-keep/api';
import { Column, Entity, OneToMany, PrimaryGeneratedColumn, type Relation } from 'typeorm';
import { JobItem } from './job-item.entity.ts';

@Entity()
export class Job {
  @PrimaryGeneratedColumn('uuid') id: string;
  @Column('text') kind: JobKind;
  @Column('text') state: JobState;
  @Column('text') reason: string;
  @Column('text') requestedBy: string;
  @Column({ type: 'timestamptz', insert: false }) requestedAt: Date;
  @Column('timestamptz', { nullable: true }) startedAt: Date | null;
  @Column('timestamptz', { nullable: true }) finishedAt: Date | null;
  @Column('boolean', { default: false }) stopRequested: boolean;
  @OneToMany(() => JobItem, (item) => item.job) items: Relation<JobItem[]>;
}
