import { Column, Entity, JoinColumn, ManyToOne, PrimaryGeneratedColumn, type Relation } from 'typeorm';
import { Round } from './round.entity.ts';

/** One due time of a round with its tries; `jobId` is the newest of them. */
@Entity('round_run')
export class RoundRun {
  @PrimaryGeneratedColumn('uuid') id: string;
  @ManyToOne(() => Round) @JoinColumn() round: Relation<Round>;
  @Column('timestamptz') dueAt: Date;
  @Column('integer', { default: 0 }) tries: number;
  @Column('uuid', { nullable: true }) jobId: string | null;
  @Column('timestamptz', { nullable: true }) retryAt: Date | null;
  @Column('timestamptz', { nullable: true }) doneAt: Date | null;
}
