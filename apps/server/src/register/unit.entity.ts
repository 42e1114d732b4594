import { Column, Entity, JoinColumn, ManyToOne, PrimaryGeneratedColumn, type Relation } from 'typeorm';
import { Line } from '../lines/line.entity.ts';
import { Position } from './position.entity.ts';
import { wholeNumber } from '../storage/whole-number.ts';

/** One stay of a physical drive at a position; with `removedAt` it is over. */
@Entity()
export class Unit {
  @PrimaryGeneratedColumn('uuid') id: string;
  @ManyToOne(() => Position, (position) => position.units) @JoinColumn() position: Relation<Position>;
  @Column('text') dictionaryId: string;
  @Column('text') rating: string;
  @Column('text') region: string;
  @Column({ type: 'bigint', transformer: wholeNumber }) serial: number;
  @Column('text') firmware: string;
  @ManyToOne(() => Line, { nullable: true }) @JoinColumn() line: Relation<Line> | null;
  @Column('integer', { nullable: true }) lineAddress: number | null;
  @Column('timestamptz') installedAt: Date;
  @Column('timestamptz', { nullable: true }) removedAt: Date | null;
  @Column('text', { default: '' }) removedWhy: string;
  /** Counts its changes, so that the later of two people is told. */
  @Column('integer', { default: 1 }) version: number;
}
