import { Column, Entity, JoinColumn, ManyToOne, PrimaryGeneratedColumn, type Relation } from 'typeorm';
import { Position } from '../register/position.entity.ts';

/** Some values that a file told of a unit: something to compare with and to write, and no backup. */
@Entity()
export class SetPart {
  @PrimaryGeneratedColumn('uuid') id: string;
  @ManyToOne(() => Position) @JoinColumn() position: Relation<Position>;
  @Column('text') contentHash: string;
  @Column('text') fileName: string;
  @Column('text') broughtBy: string;
  @Column({ type: 'timestamptz', insert: false }) broughtAt: Date;
}
