import { Column, Entity, PrimaryGeneratedColumn } from 'typeorm';

/** A mains supply of the plant. What it is nominally and what is measured there are two things. */
@Entity()
export class Supply {
  @PrimaryGeneratedColumn('uuid') id: string;
  @Column('text') name: string;
  @Column('integer') nominalVolts: number;
  @Column('integer') frequency: 50 | 60;
  /** At which a residual-current device before its units trips, in mA; 0 where there is none, nothing where nobody said. */
  @Column('integer', { nullable: true }) residualMilliamps: number | null;
  @Column('integer', { default: 1 }) version: number;
}
