import type { MotorPlate } from '@drive-keep/core/motor';
import { Column, Entity, PrimaryGeneratedColumn } from 'typeorm';

/** A motor of the library. Its plate is in base units. */
@Entity()
export class Motor {
  @PrimaryGeneratedColumn('uuid') id: string;
  @Column('text') name: string;
  @Column('jsonb') plate: MotorPlate;
  /** In one line, as the register shows it behind the name. */
  @Column('text') line: string;
  @Column('text', { default: '' }) startedFrom: string;
  @Column('text') changedBy: string;
  @Column('timestamptz') changedAt: Date;
  /** Counts its changes, so that the later of two people is told. */
  @Column('integer', { default: 1 }) version: number;
}
