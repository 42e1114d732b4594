import {
  Column,
  Entity,
  JoinColumn,
  ManyToOne,
  OneToMany,
  PrimaryGeneratedColumn,
  type Relation,
} from 'typeorm';
import { Machine } from './machine.entity.ts';
import { Unit } from './unit.entity.ts';

/** A place with a duty. Units come and go; the position stays. */
@Entity()
export class Position {
  @PrimaryGeneratedColumn('uuid') id: string;
  @ManyToOne(() => Machine, (machine) => machine.positions) @JoinColumn() machine: Relation<Machine>;
  @Column('text') tag: string;
  @Column('text') duty: string;
  @Column('text') criticality: 'low' | 'middle' | 'high';
  /** As it is called where the library does not have it. */
  @Column('text') motor: string;
  @Column('uuid', { nullable: true }) motorId: string | null;
  @Column('integer') place: number;
  /** Nothing is there any more; the history stays. */
  @Column('timestamptz', { nullable: true }) retiredAt: Date | null;
  @Column('text', { default: '' }) retiredWhy: string;
  /** Counts its changes, so that the later of two people is told. */
  @Column('integer', { default: 1 }) version: number;
  @OneToMany(() => Unit, (unit) => unit.position) units: Relation<Unit[]>;
}
