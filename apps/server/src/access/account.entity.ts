import type { Role } from '@drive-keep/api';
import { Column, Entity, PrimaryGeneratedColumn } from 'typeorm';

@Entity()
export class Account {
  @PrimaryGeneratedColumn('uuid') id: string;
  @Column('text') person: string;
  @Column('text') signInName: string;
  @Column('text') role: Role;
  @Column('text') passwordHash: string;
  @Column('boolean') mustChangePassword: boolean;
  @Column({ type: 'timestamptz', insert: false }) createdAt: Date;
}
