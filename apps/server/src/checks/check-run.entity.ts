import type { UntoldCheck } from '@drive-keep/core/checks';
import { Column, Entity, PrimaryColumn } from 'typeorm';

/** The last time that a position was checked as it stands. */
@Entity('check_run')
export class CheckRun {
  @PrimaryColumn('uuid') positionId: string;
  /** Of everything that the checks looked at. */
  @Column('text') groundHash: string;
  @Column('text') contentHash: string;
  @Column('timestamptz') checkedAt: Date;
  @Column('integer') looked: number;
  @Column('jsonb') untold: UntoldCheck[];
}
