import { Column, Entity, PrimaryColumn } from 'typeorm';

/** How a proof run ended, with the whole of it as it stood then. */
@Entity()
export class ProofEnd {
  @PrimaryColumn('uuid') runId: string;
  @Column('text') state: 'closed' | 'given-up';
  @Column('text') why: string;
  @Column('integer') passed: number;
  @Column('integer') failed: number;
  @Column('integer') notDone: number;
  @Column('text', { select: false }) record: string;
  @Column('text') hash: string;
  @Column('text') endedBy: string;
  @Column('timestamptz') endedAt: Date;
}
