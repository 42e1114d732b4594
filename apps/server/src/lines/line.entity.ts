import { Column, Entity, PrimaryGeneratedColumn, VersionColumn } from 'typeorm';
import type { Framing } from './line-settings.ts';

/** A gateway on the plant network with units behind it. */
@Entity()
export class Line {
  @PrimaryGeneratedColumn('uuid') id: string;
  @Column('text') name: string;
  @Column('text') host: string;
  @Column('integer') port: number;
  @Column('text', { default: 'tcp' }) framing: Framing;
  @Column('integer', { default: 1000 }) timeoutMs: number;
  @Column('integer', { default: 1 }) retries: number;
  @Column('integer', { default: 0 }) pauseMs: number;
  @Column('integer', { default: 125 }) largestRead: number;
  /** No unit may be put on it any more; its name stays with those that were. */
  @Column('timestamptz', { nullable: true }) retiredAt: Date | null;
  @VersionColumn() version: number;
}
