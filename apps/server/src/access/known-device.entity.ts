import { Column, Entity, JoinColumn, ManyToOne, PrimaryColumn, type Relation } from 'typeorm';
import { Account } from './account.entity.ts';

/** A browser in which somebody has signed in before: whoever guesses passwords elsewhere does not lock it out. */
@Entity()
export class KnownDevice {
  @PrimaryColumn('text') tokenHash: string;
  @ManyToOne(() => Account) @JoinColumn() account: Relation<Account>;
  @Column('timestamptz') seenAt: Date;
}
