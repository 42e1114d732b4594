import type { CheckMend } from '@drive-keep/core/checks';
import type { Attention } from '@drive-keep/core/findings';
import type { Reading } from '@drive-keep/core/values';
import { Column, Entity, PrimaryColumn } from 'typeorm';

/** What a check found at a position as it stands. The sentence stands as it was found. */
@Entity('check_finding')
export class CheckFinding {
  @PrimaryColumn('uuid') positionId: string;
  @PrimaryColumn('text') identity: string;
  @Column('text') signature: string;
  @Column('integer') place: number;
  @Column('text') checkId: string;
  @Column('text') attention: Attention;
  @Column('text') text: string;
  @Column('jsonb') values: { code: string; reading: Reading | null }[];
  @Column('jsonb') mends: CheckMend[];
  /** When it was first seen; nothing where it was there at the first check. */
  @Column('timestamptz', { nullable: true }) since: Date | null;
}
