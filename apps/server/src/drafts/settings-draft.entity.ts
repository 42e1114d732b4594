import type { DraftState } from '@drive-keep/api';
import { Column, Entity, JoinColumn, ManyToOne, PrimaryGeneratedColumn, type Relation } from 'typeorm';
import { Position } from '../register/position.entity.ts';

/** First settings that people work on, for a unit that may still be in its box. */
@Entity()
export class SettingsDraft {
  @PrimaryGeneratedColumn('uuid') id: string;
  @Column('text') name: string;
  @Column('text') owner: string;
  @Column({ type: 'timestamptz', insert: false }) startedAt: Date;
  /** Counts its changes but for what is typed into its fields. */
  @Column('integer', { default: 1 }) version: number;
  @Column('text', { default: 'open' }) state: DraftState;
  @Column('text', { nullable: true }) endedBy: string | null;
  @Column('timestamptz', { nullable: true }) endedAt: Date | null;
  @Column('text', { nullable: true }) endedWhy: string | null;
  /** The position that it is for. */
  @ManyToOne(() => Position, { nullable: true }) @JoinColumn() position: Relation<Position> | null;
  @Column('text') dictionaryId: string;
  @Column('text') region: string;
  /** Nothing: the smallest that bears the motor. */
  @Column('text', { nullable: true }) rating: string | null;
  @Column('text', { nullable: true }) pointId: string | null;
  /** The file as it was when the draft began with it. */
  @Column('text', { nullable: true }) pointContent: string | null;
  @Column('text', { nullable: true }) baseTitle: string | null;
  @Column('text', { nullable: true }) baseHash: string | null;
  @Column('text', { nullable: true }) baseRating: string | null;
  @Column('text', { nullable: true }) baseRegion: string | null;
  @Column('text', { nullable: true }) baseWiring: string | null;
  @Column('text', { nullable: true }) crossContent: string | null;
  @Column('uuid', { nullable: true }) fromId: string | null;
}
