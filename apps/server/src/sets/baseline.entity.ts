import { Column, Entity, JoinColumn, ManyToOne, PrimaryGeneratedColumn, type Relation } from 'typeorm';
import { Position } from '../register/position.entity.ts';

/** The signed set that a position should hold; a new revision does not touch the ones before. */
@Entity()
export class Baseline {
  @PrimaryGeneratedColumn('uuid') id: string;
  @ManyToOne(() => Position) @JoinColumn() position: Relation<Position>;
  @Column('integer') revision: number;
  @Column('text') contentHash: string;
  @Column('timestamptz') signedAt: Date;
  @Column('text') signedBy: string;
  @Column('text') reason: string;
  /** Hash of the files of the dictionary at that time. */
  @Column('text') dictionaryHash: string;
  /** Signature of the revision before; nothing for the first. */
  @Column('text', { nullable: true }) before: string | null;
  /** The wiring that was signed with it; nothing where the position had none. */
  @Column('integer', { nullable: true }) wiringRevision: number | null;
  @Column('text', { nullable: true }) wiringHash: string | null;
  /** Of the record of the proof run that showed on the machine what it holds; nothing where none had. */
  @Column('text', { nullable: true }) proofHash: string | null;
  @Column('text') signature: string;
}
