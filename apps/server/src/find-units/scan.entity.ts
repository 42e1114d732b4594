import type { FoundUnitView } from '@drive-keep/api';
import { Column, Entity, JoinColumn, ManyToOne, PrimaryGeneratedColumn, type Relation } from 'typeorm';
import { Line } from '../lines/line.entity.ts';

/** A search of one line, address by address. */
@Entity()
export class Scan {
  @PrimaryGeneratedColumn('uuid') id: string;
  @ManyToOne(() => Line) @JoinColumn() line: Relation<Line>;
  @Column('integer') fromAddress: number;
  @Column('integer') toAddress: number;
  @Column('text') state: 'running' | 'done' | 'stopped' | 'interrupted';
  @Column('text') startedBy: string;
  @Column({ type: 'timestamptz', insert: false }) startedAt: Date;
  @Column('integer', { default: 0 }) asked: number;
  /** Why it ended early; empty where it did not. */
  @Column('text', { default: '' }) text: string;
  @Column('jsonb', { default: [] }) units: FoundUnitView[];
}
