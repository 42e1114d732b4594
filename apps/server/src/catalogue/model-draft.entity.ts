import { Column, Entity, PrimaryGeneratedColumn, VersionColumn } from 'typeorm';

/** A model that is being made or completed: its files as texts, right or not yet. */
@Entity()
export class ModelDraft {
  @PrimaryGeneratedColumn('uuid') id: string;
  @Column('text') title: string;
  @Column('text') modelFile: string;
  @Column('text') parametersFile: string;
  @Column('text', { nullable: true }) terminalsFile: string | null;
  @Column('text', { nullable: true }) faultsFile: string | null;
  @Column('text') madeBy: string;
  @Column({ type: 'timestamptz', insert: false }) madeAt: Date;
  @Column('text') changedBy: string;
  @Column('timestamptz') changedAt: Date;
  /** The dictionary that it was kept as the last time. */
  @Column('text', { nullable: true }) keptAs: string | null;
  @VersionColumn() version: number;
}
