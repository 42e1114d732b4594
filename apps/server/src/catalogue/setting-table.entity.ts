import { Column, Entity, PrimaryGeneratedColumn } from 'typeorm';

/** A table of a machine's maker, whole; a later revision of the same name counts. */
@Entity('setting_table')
export class StoredSettingTable {
  @PrimaryGeneratedColumn('uuid') id: string;
  @Column('text') name: string;
  @Column('integer') revision: number;
  @Column('text') dictionaryId: string;
  /** CSV. */
  @Column('text') content: string;
  @Column('text') savedBy: string;
  @Column({ type: 'timestamptz', insert: false }) savedAt: Date;
  @Column('text') why: string;
}
