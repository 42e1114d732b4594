import type { ReplacementState } from '@drive-keep/api';
import { Column, Entity, JoinColumn, ManyToOne, PrimaryGeneratedColumn, type Relation } from 'typeorm';
import { Position } from '../register/position.entity.ts';
import { Unit } from '../register/unit.entity.ts';

/** One position on its way from one model to another. */
@Entity()
export class Replacement {
  @PrimaryGeneratedColumn('uuid') id: string;
  @ManyToOne(() => Position) @JoinColumn() position: Relation<Position>;
  @Column('text', { default: 'open' }) state: ReplacementState;
  @ManyToOne(() => Unit) @JoinColumn() oldUnit: Relation<Unit>;
  @Column('text') oldDictionaryId: string;
  /** Content that the old unit held, by choice of whoever began. */
  @Column('text') sourceHash: string;
  @Column('text') sourceReference: string;
  @Column('text') sourceTitle: string;
  @Column('timestamptz', { nullable: true }) sourceAt: Date | null;
  @Column('text') dictionaryId: string;
  @Column('text') region: string;
  /** Nothing: the smallest that fits. */
  @Column('text', { nullable: true }) rating: string | null;
  /** 0 for what the catalogue ships, or where there is none. */
  @Column('integer') crossRevision: number;
  @Column('text', { nullable: true }) crossContent: string | null;
  @Column('text') why: string;
  @Column('text') startedBy: string;
  @Column({ type: 'timestamptz', insert: false }) startedAt: Date;
  /** Counts its changes but for what is said of its lines. */
  @Column('integer', { default: 1 }) version: number;
  /** What hands did at the wires before this moment was of an attempt that was taken back. */
  @Column('timestamptz', { nullable: true }) attemptFrom: Date | null;
  @ManyToOne(() => Unit, { nullable: true }) @JoinColumn() newUnit: Relation<Unit> | null;
  @Column('text', { nullable: true }) swappedBy: string | null;
  @Column('timestamptz', { nullable: true }) swappedAt: Date | null;
  /** The wiring of the old unit; 0 where none was kept. */
  @Column('integer', { nullable: true }) oldWiringRevision: number | null;
  @Column('uuid', { nullable: true }) writePlanId: string | null;
  @Column('uuid', { nullable: true }) keyInSheetId: string | null;
  @Column('text', { nullable: true }) promisedHash: string | null;
  @Column('uuid', { nullable: true }) draftId: string | null;
  @Column('text', { nullable: true }) endedBy: string | null;
  @Column('timestamptz', { nullable: true }) endedAt: Date | null;
  @Column('text', { nullable: true }) endedWhy: string | null;
  @Column('text', { nullable: true, select: false }) record: string | null;
  @Column('text', { nullable: true }) recordHash: string | null;
}
