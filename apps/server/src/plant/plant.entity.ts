import type { Permission } from '@drive-keep/api';
import { Column, Entity, PrimaryColumn, VersionColumn } from 'typeorm';

/** The one plant that this installation keeps. */
@Entity()
export class Plant {
  @PrimaryColumn('boolean') id: true;
  @Column('text') name: string;
  /** A baseline is signed by another person than the one who proposed it. */
  @Column('boolean', { default: false }) secondSignature: boolean;
  @Column('text', { default: '02:00' }) nightlyAt: string;
  @Column('integer', { default: 36 }) overdueHours: number;
  @Column('integer', { nullable: true }) mainsVoltage: number | null;
  @Column('integer', { nullable: true }) mainsFrequency: 50 | 60 | null;
  @Column('text', { default: '' }) timeZone: string;
  @Column('text', { default: 'point' }) decimalMark: 'point' | 'comma';
  @Column('text', { default: '' }) address: string;
  /** The least role, where it is not the usual one. */
  @Column('jsonb', { default: {} }) may: Partial<Record<Permission, 'technician' | 'engineer'>>;
  /** Restored from a backup: it talks to no unit until somebody says that it is the one now. */
  @Column('boolean', { default: false }) isCopy: boolean;
  @Column({ type: 'timestamptz', insert: false }) madeAt: Date;
  @VersionColumn() version: number;
}
