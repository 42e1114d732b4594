import type { KeptKeyInMark, KeyInLineView } from '@drive-keep/api';
import { Column, Entity, JoinColumn, ManyToOne, PrimaryGeneratedColumn, type Relation } from 'typeorm';
import { Position } from '../register/position.entity.ts';
import { Unit } from '../register/unit.entity.ts';

/** Marks of older sheets say nothing of others. */
export type StoredMark = Omit<KeptKeyInMark, 'other'> & Partial<Pick<KeptKeyInMark, 'other'>>;

/** A write plan for fingers, with what was marked on it so far. */
@Entity()
export class KeyInSheet {
  @PrimaryGeneratedColumn('uuid') id: string;
  @ManyToOne(() => Position) @JoinColumn() position: Relation<Position>;
  @ManyToOne(() => Unit) @JoinColumn() unit: Relation<Unit>;
  @Column('text') dictionaryId: string;
  @Column('text') target: string;
  @Column('text') madeBy: string;
  @Column({ type: 'timestamptz', insert: false }) madeAt: Date;
  @Column('jsonb') first: string[];
  @Column('jsonb') afterwards: string[];
  @Column('jsonb') lines: KeyInLineView[];
  @Column('jsonb') unreachable: { code: string; text: string }[];
  @Column('integer') presses: number;
  @Column('integer') plainPresses: number;
  /** By the place of the line. */
  @Column('jsonb', { default: {} }) marks: Record<string, StoredMark>;
  @Column('text', { nullable: true }) finishedBy: string | null;
  @Column('timestamptz', { nullable: true }) finishedAt: Date | null;
}
