import { Column, Entity, PrimaryGeneratedColumn } from 'typeorm';

/** Somebody has accepted a finding for a while. It names the values: with others it says nothing. */
@Entity('finding_acceptance')
export class FindingAcceptance {
  @PrimaryGeneratedColumn('uuid') id: string;
  @Column('uuid') positionId: string;
  @Column('text') identity: string;
  @Column('text') signature: string;
  /** What was accepted, as it was told then. */
  @Column('text') text: string;
  @Column('text') reason: string;
  @Column('date') until: string;
  @Column('text') person: string;
  @Column({ type: 'timestamptz', insert: false }) acceptedAt: Date;
  @Column('timestamptz', { nullable: true }) endedAt: Date | null;
  @Column('text', { nullable: true }) endedBy: string | null;
}
