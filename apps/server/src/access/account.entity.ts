import type { Role } from '@drive-keep/api';
import { Column, Entity, PrimaryGeneratedColumn, VersionColumn } from 'typeorm';

@Entity()
export class Account {
  @PrimaryGeneratedColumn('uuid') id: string;
  @Column('text') person: string;
  @Column('text') signInName: string;
  @Column('text') role: Role;
  @Column('text') passwordHash: string;
  @Column('boolean') mustChangePassword: boolean;
  /** Nobody signs in with it any more; the name stays with what was done. */
  @Column('timestamptz', { nullable: true }) disabledAt: Date | null;
  @Column({ type: 'timestamptz', insert: false }) createdAt: Date;
  @VersionColumn() version: number;
}
