import { Column, Entity, JoinColumn, ManyToOne, PrimaryGeneratedColumn, type Relation } from 'typeorm';
import { Position } from '../register/position.entity.ts';
import { Unit } from '../register/unit.entity.ts';

export interface StoredEntry {
  readonly raw: number;
  readonly by: string;
  readonly at: string;
}

/** Values read off at a keypad so far. */
@Entity()
export class ReadOff {
  @PrimaryGeneratedColumn('uuid') id: string;
  @ManyToOne(() => Position) @JoinColumn() position: Relation<Position>;
  @ManyToOne(() => Unit) @JoinColumn() unit: Relation<Unit>;
  @Column('text') dictionaryId: string;
  @Column('text') startedBy: string;
  @Column({ type: 'timestamptz', insert: false }) startedAt: Date;
  @Column('text', { default: 'open' }) state: 'open' | 'kept' | 'dropped';
  @Column('jsonb', { default: {} }) entries: Record<string, StoredEntry>;
  @Column('uuid', { nullable: true }) backupId: string | null;
}
