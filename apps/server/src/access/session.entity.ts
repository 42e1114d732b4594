import { Column, Entity, JoinColumn, ManyToOne, PrimaryColumn, type Relation } from 'typeorm';
import { Account } from './account.entity.ts';

/** A signed-in browser. Only the hash of the cookie's token is stored. */
@Entity()
export class Session {
  @PrimaryColumn('text') tokenHash: string;
  /** By which it is told apart where it is seen and ended. */
  @Column({ type: 'uuid', insert: false, update: false }) id: string;
  @ManyToOne(() => Account, { eager: true }) @JoinColumn() account: Relation<Account>;
  @Column({ type: 'timestamptz', insert: false }) createdAt: Date;
  @Column('timestamptz') expiresAt: Date;
  @Column('timestamptz') seenAt: Date;
  /** As the browser calls itself. */
  @Column('text') browser: string;
  @Column('text') cameFrom: string;
}
