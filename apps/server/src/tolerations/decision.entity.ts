import type { DecisionKind } from '@drive-keep/api';
import type { Reading } from '@drive-keep/core/values';
import { Column, Entity, JoinColumn, ManyToOne, PrimaryGeneratedColumn, type Relation } from 'typeorm';
import { Position } from '../register/position.entity.ts';

/** What somebody decided about one difference. `ended` ones are kept for the record. */
@Entity()
export class Decision {
  @PrimaryGeneratedColumn('uuid') id: string;
  @ManyToOne(() => Position) @JoinColumn() position: Relation<Position>;
  @Column('text') code: string;
  @Column('text') kind: DecisionKind;
  @Column('text') reason: string;
  @Column('date', { nullable: true }) until: string | null;
  @Column('jsonb', { nullable: true }) wanted: Reading | null;
  @Column('jsonb', { nullable: true }) found: Reading | null;
  @Column('text') person: string;
  @Column({ type: 'timestamptz', insert: false }) madeAt: Date;
  @Column('text', { default: 'open' }) state: 'open' | 'in-force' | 'ended';
}
