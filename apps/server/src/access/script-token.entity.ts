import type { Role } from '@drive-keep/api';
import { Column, Entity, PrimaryGeneratedColumn } from 'typeorm';

/** What a script signs its requests with. Only its hash is stored. */
@Entity()
export class ScriptToken {
  @PrimaryGeneratedColumn('uuid') id: string;
  @Column('text') name: string;
  @Column('text') role: Role;
  @Column('text') tokenHash: string;
  @Column('text') madeBy: string;
  @Column({ type: 'timestamptz', insert: false }) madeAt: Date;
  @Column('timestamptz') expiresAt: Date;
  @Column('timestamptz', { nullable: true }) usedAt: Date | null;
  @Column('timestamptz', { nullable: true }) endedAt: Date | null;
}
