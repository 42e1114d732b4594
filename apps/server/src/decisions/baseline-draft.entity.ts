import { Column, Entity, JoinColumn, ManyToOne, PrimaryGeneratedColumn, type Relation } from 'typeorm';
import { Position } from '../register/position.entity.ts';

/** A baseline revision that somebody proposes. It counts for nothing until an engineer has signed it. */
@Entity()
export class BaselineDraft {
  @PrimaryGeneratedColumn('uuid') id: string;
  @ManyToOne(() => Position) @JoinColumn() position: Relation<Position>;
  @Column('text') contentHash: string;
  /** Revision that was in force when it was proposed; 0 for the first baseline. */
  @Column('integer') basisRevision: number;
  @Column('jsonb') codes: string[];
  @Column('text') reason: string;
  @Column('text') madeBy: string;
  /** Who has proposed each line. */
  @Column('jsonb', { default: {} }) proposers: Record<string, string[]>;
  @Column({ type: 'timestamptz', insert: false }) madeAt: Date;
  @Column('text', { default: 'waiting' }) state: 'waiting' | 'signed' | 'refused';
  /** The replacement whose new unit holds it. */
  @Column('uuid', { nullable: true }) replacementId: string | null;
  @Column('text', { nullable: true }) closedBy: string | null;
  @Column('timestamptz', { nullable: true }) closedAt: Date | null;
}
