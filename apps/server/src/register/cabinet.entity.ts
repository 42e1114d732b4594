import { Column, Entity, PrimaryGeneratedColumn } from 'typeorm';

@Entity()
export class Cabinet {
  @PrimaryGeneratedColumn('uuid') id: string;
  @Column('text') name: string;
  /** The warmest that is met there, in °C. */
  @Column('integer', { nullable: true }) ambient: number | null;
  @Column('integer', { default: 1 }) version: number;
}
