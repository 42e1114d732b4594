import { Column, Entity, JoinColumn, ManyToOne, PrimaryColumn, type Relation } from 'typeorm';
import { Line } from '../lines/line.entity.ts';

/** What moves the axes of a machine together. */
@Entity()
export class MachineController {
  @PrimaryColumn('uuid') machineId: string;
  @ManyToOne(() => Line) @JoinColumn() line: Relation<Line>;
  @Column('integer') address: number;
}
