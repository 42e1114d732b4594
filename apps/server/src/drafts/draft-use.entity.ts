import type { DraftUse as UseKind } from '@drive-keep/api';
import { Column, Entity, PrimaryGeneratedColumn } from 'typeorm';

/** What was made of a revision of a draft. */
@Entity()
export class DraftUse {
  @PrimaryGeneratedColumn('uuid') id: string;
  @Column('uuid') revisionId: string;
  @Column('text') kind: UseKind;
  @Column('uuid') positionId: string;
  @Column('uuid', { nullable: true }) madeId: string | null;
  @Column('text') usedBy: string;
  @Column({ type: 'timestamptz', insert: false }) usedAt: Date;
}
