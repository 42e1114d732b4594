import type { TraceMarker, TraceSettings } from '@drive-keep/api';
import type { TraceSignal } from '@drive-keep/core/signals';
import { Column, Entity, PrimaryGeneratedColumn } from 'typeorm';

/** Signals of a unit over time. It grows while it is recorded and never changes after that. */
@Entity('trace')
export class KeptTrace {
  @PrimaryGeneratedColumn('uuid') id: string;
  @Column('uuid') positionId: string;
  @Column('text') dictionaryId: string;
  @Column({ type: 'bigint', nullable: true }) serial: string | null;
  @Column('text') title: string;
  @Column('jsonb') signals: readonly TraceSignal[];
  @Column('integer') everyMs: number;
  @Column('integer') seconds: number;
  @Column('jsonb') settings: TraceSettings;
  @Column('text') state: 'recording' | 'kept';
  @Column('timestamptz') beganAt: Date;
  @Column('text') beganBy: string;
  @Column('boolean') stopRequested: boolean;
  @Column({ type: 'timestamptz', nullable: true }) lastPieceAt: Date | null;
  @Column({ type: 'timestamptz', nullable: true }) endedAt: Date | null;
  @Column('text') endedWhy: string;
  @Column('jsonb') markers: readonly TraceMarker[];
  @Column({ type: 'bytea', nullable: true, select: false }) samples: Buffer | null;
  @Column('integer') count: number;
  @Column({ type: 'text', nullable: true }) hash: string | null;
}
