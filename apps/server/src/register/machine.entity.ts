import {
  Column,
  Entity,
  JoinColumn,
  ManyToOne,
  OneToMany,
  PrimaryGeneratedColumn,
  type Relation,
} from 'typeorm';
import { Area } from './area.entity.ts';
import { Position } from './position.entity.ts';

@Entity()
export class Machine {
  @PrimaryGeneratedColumn('uuid') id: string;
  @ManyToOne(() => Area, (area) => area.machines) @JoinColumn() area: Relation<Area>;
  @Column('text') name: string;
  @Column('integer') place: number;
  @OneToMany(() => Position, (position) => position.machine) positions: Relation<Position[]>;
}
