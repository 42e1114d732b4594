import { Column, Entity, PrimaryColumn } from 'typeorm';

/** A dictionary as it came in: the original files, from which it is read each time. */
@Entity('dictionary')
export class StoredDictionary {
  @PrimaryColumn('text') id: string;
  @Column('text') model: string;
  @Column('integer') version: number;
  @Column('text') maker: string;
  @Column('text') name: string;
  @Column('text') modelFile: string;
  @Column('text') parametersFile: string;
  @Column('text', { nullable: true }) terminalsFile: string | null;
  @Column('text', { nullable: true }) faultsFile: string | null;
  /** Over the files; by it they prove to be those that were taken in. */
  @Column('text') filesHash: string;
  /** Who brought it; nothing for a shipped model. */
  @Column('text', { nullable: true }) importedBy: string | null;
  @Column({ type: 'timestamptz', insert: false }) importedAt: Date;
}
