import { Column, Entity, PrimaryGeneratedColumn } from 'typeorm';

/** A gateway on the plant network with units behind it. */
@Entity()
export class Line {
  @PrimaryGeneratedColumn('uuid') id: string;
  @Column('text') name: string;
  @Column('text') host: string;
  @Column('integer') port: number;
}
