import type { AxisLoadState, AxisOnFailure } from '@drive-keep/api';
import { Column, Entity, JoinColumn, ManyToOne, PrimaryGeneratedColumn, type Relation } from 'typeorm';
import { Machine } from '../register/machine.entity.ts';

/** All axes of a machine with their own sets, in one go. */
@Entity()
export class AxisLoad {
  @PrimaryGeneratedColumn('uuid') id: string;
  @ManyToOne(() => Machine) @JoinColumn() machine: Relation<Machine>;
  @Column('text') state: AxisLoadState;
  @Column('text') onFailure: AxisOnFailure;
  /** Write plans of the axes, in the order of the register. */
  @Column('uuid', { array: true }) planIds: string[];
  @Column('text') madeBy: string;
  @Column({ type: 'timestamptz', insert: false }) madeAt: Date;
  @Column('text', { nullable: true }) releasedBy: string | null;
  @Column('timestamptz', { nullable: true }) releasedUntil: Date | null;
  @Column('text', { default: '' }) text: string;
  @Column('uuid', { nullable: true }) jobId: string | null;
}
