import { Column, Entity, PrimaryColumn } from 'typeorm';

/** Content of sets by hash: equal content is stored once, whoever points to it. */
@Entity()
export class SetContent {
  @PrimaryColumn('text') hash: string;
  @Column('text') dictionaryId: string;
  @Column('bytea') content: Buffer;
  /** Whether the content is deflated. */
  @Column('boolean') packed: boolean;
}
