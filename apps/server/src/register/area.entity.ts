import { Column, Entity, OneToMany, PrimaryGeneratedColumn, type Relation } from 'typeorm';
import { Machine } from './machine.entity.ts';

@Entity()
export class Area {
  @PrimaryGeneratedColumn('uuid') id: string;
  @Column('text') name: string;
  @Column('integer') place: number;
  @OneToMany(() => Machine, (machine) => machine.area) machines: Relation<Machine[]>;
}
