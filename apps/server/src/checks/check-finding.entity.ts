import type { CheckMend } from '@drive-keep/core/checks';
import type { Attention, Said } from '@drive-keep/core/findings';
import type { Reading } from '@drive-keep/core/values';
import { Column, Entity, PrimaryColumn } from 'typeorm';

/** What a check found at a position as it stands. Facts are kept; the sentence is made when it is read. */
@Entity('check_finding')
export class CheckFinding {
  @PrimaryColumn('uuid') positionId: string;
  @PrimaryColumn('text') identity: string;
  @Column('text') signature: string;
  @Column('integer') place: number;
  @Column('text') checkId: string;
  @Column('text') attention: Attention;
  @Column('jsonb') said: Said;
  @Column('jsonb') values: { code: string; reading: Reading | null }[];
  @Column('jsonb') mends: CheckMend[];
  /** When it was first seen; nothing where it was there at the first check. */
  @Column('timestamptz', { nullable: true }) since: Date | null;
}
