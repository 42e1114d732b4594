import type { BackupHow } from '@drive-keep/api';
import { Column, Entity, JoinColumn, ManyToOne, PrimaryGeneratedColumn, type Relation } from 'typeorm';
import { Position } from '../register/position.entity.ts';
import { Unit } from '../register/unit.entity.ts';
import { wholeNumber } from '../storage/whole-number.ts';

@Entity()
export class Backup {
  @PrimaryGeneratedColumn('uuid') id: string;
  @Column({ type: 'bigint', insert: false }) seq: string;
  @ManyToOne(() => Position) @JoinColumn() position: Relation<Position>;
  @ManyToOne(() => Unit) @JoinColumn() unit: Relation<Unit>;
  @Column('text') contentHash: string;
  @Column('timestamptz') takenAt: Date;
  @Column('text') takenBy: string;
  @Column('text') how: BackupHow;
  @Column('text') reason: string;
  @Column({ type: 'bigint', transformer: wholeNumber }) serial: number;
  @Column('text') firmware: string;
  @Column('integer') unreadable: number;
  /** Monitors and counters at that moment, raw by code. */
  @Column('jsonb') aside: object;
}
