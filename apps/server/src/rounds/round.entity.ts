import type { RoundScope } from '@drive-keep/api';
import { Column, Entity, PrimaryGeneratedColumn } from 'typeorm';

/** A scheduled backup of many units. */
@Entity()
export class Round {
  @PrimaryGeneratedColumn('uuid') id: string;
  @Column('text') name: string;
  @Column('text') at: string;
  @Column('integer', { array: true }) days: number[];
  @Column('jsonb') scope: RoundScope;
  @Column('integer') retries: number;
  @Column('jsonb', { nullable: true }) quiet: { from: string; to: string } | null;
  @Column('boolean') enabled: boolean;
  /** Counts its changes, so that the later of two people is told. */
  @Column('integer', { default: 1 }) version: number;
}
