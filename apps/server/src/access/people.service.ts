// The accounts of the plant: who may sign in, as what, and where they are signed in. There is always an engineer who can.

import { randomBytes } from 'node:crypto';
import { Injectable } from '@nestjs/common';
import type { OneTimePassword, OpenSession, PersonView, Role } from '@drive-keep/api';
import { DataSource, IsNull, MoreThan, Not, type EntityManager } from 'typeorm';
import { Logbook } from '../logbook/logbook.service.ts';
import { notFound, ProblemException } from '../problems/problem.ts';
import { requireSameVersion } from '../problems/same-version.ts';
import { isUuid } from '../storage/uuid.ts';
import { Access, hashPassword } from './access.service.ts';
import { Account } from './account.entity.ts';
import { Session } from './session.entity.ts';

export interface PersonWish {
  readonly person: string;
  readonly role: Role;
  readonly disabled: boolean;
}

@Injectable()
export class People {
  constructor(
    private readonly dataSource: DataSource,
    private readonly access: Access,
    private readonly logbook: Logbook,
  ) {}

  /** `own` is the hash of the token that asks. */
  async views(own: string): Promise<readonly PersonView[]> {
    const [accounts, sessions] = await Promise.all([
      this.dataSource.getRepository(Account).find({ order: { person: 'ASC' } }),
      this.sessionsWhere({}),
    ]);
    return accounts.map((account) =>
      view(
        account,
        sessions.filter((session) => session.account.id === account.id),
        own,
      ),
    );
  }

  async ownSessions({ id }: Account, own: string): Promise<readonly OpenSession[]> {
    return (await this.sessionsWhere({ account: { id } })).map((session) => sessionView(session, own));
  }

  async add(
    fresh: { readonly person: string; readonly signInName: string; readonly role: Role },
    { person: by }: Account,
  ): Promise<OneTimePassword> {
    const signInName = fresh.signInName.toLowerCase();
    if (await this.dataSource.getRepository(Account).existsBy({ signInName })) {
      const detail = `${signInName} is the name of somebody already. Choose another name to sign in with. Nobody was added.`;
      throw new ProblemException(409, 'name-taken', detail);
    }
    const password = oneTime();
    const account = await this.access.createAccount({ ...fresh, password, mustChangePassword: true });
    const text = `Added ${fresh.person} (${signInName}) as ${fresh.role}.`;
    await this.logbook.write({ person: by, action: 'person-added', text });
    return { person: await this.one(account.id), password };
  }

  async change(id: string, wish: PersonWish, version: number, { person: by }: Account): Promise<PersonView> {
    const ended = await this.alone(async (manager) => {
      const account = await this.load(manager, id);
      requireSameVersion(account.version, version, account.person);
      if (wish.role !== 'engineer' || wish.disabled) await this.requireAnotherEngineer(manager, account);
      const before = `${account.person}, ${account.role}${account.disabledAt ? ', disabled' : ''}`;
      const after = `${wish.person}, ${wish.role}${wish.disabled ? ', disabled' : ''}`;
      const disabledAt = wish.disabled ? (account.disabledAt ?? new Date()) : null;
      await manager.save(
        Account,
        Object.assign(account, { person: wish.person, role: wish.role, disabledAt }),
      );
      const text = `Changed the account ${account.signInName}: ${before} became ${after}.`;
      await this.logbook.write({ person: by, action: 'person-changed', text }, manager);
      return wish.disabled ? endAll(manager, id) : [];
    });
    this.tellEnded(ended);
    return this.one(id);
  }

  /** For somebody who has forgotten theirs; all their sessions end. */
  async newPassword(id: string, { person: by }: Account): Promise<OneTimePassword> {
    const password = oneTime();
    const passwordHash = await hashPassword(password);
    const ended = await this.alone(async (manager) => {
      const account = await this.load(manager, id);
      await manager.save(Account, Object.assign(account, { passwordHash, mustChangePassword: true }));
      const text = `Gave ${account.person} a new one-time password.`;
      await this.logbook.write({ person: by, action: 'password-given', text }, manager);
      return endAll(manager, id);
    });
    this.tellEnded(ended);
    return { person: await this.one(id), password };
  }

  /** `of`: only a session of this account, for people who end their own. */
  async endSession(id: string, by: Account, of?: Account): Promise<void> {
    const sessions = this.dataSource.getRepository(Session);
    const session = isUuid(id)
      ? await sessions.findOneBy({ id, ...(of ? { account: { id: of.id } } : {}) })
      : null;
    if (!session) throw notFound('This session');
    await sessions.delete({ tokenHash: session.tokenHash });
    const whose = session.account.id === by.id ? 'an own session' : `a session of ${session.account.person}`;
    await this.logbook.write({ person: by.person, action: 'session-ended', text: `Ended ${whose}.` });
    this.tellEnded([session.tokenHash]);
  }

  private tellEnded(hashes: readonly string[]): void {
    for (const hash of hashes) this.access.ended.next(hash);
  }

  private async one(id: string): Promise<PersonView> {
    const account = await this.load(this.dataSource.manager, id);
    return view(account, await this.sessionsWhere({ account: { id } }), '');
  }

  private async load(manager: EntityManager, id: string): Promise<Account> {
    const account = isUuid(id) ? await manager.findOneBy(Account, { id }) : null;
    if (!account) throw notFound('This account');
    return account;
  }

  private sessionsWhere(where: object): Promise<readonly Session[]> {
    return this.dataSource
      .getRepository(Session)
      .find({ where: { ...where, expiresAt: MoreThan(new Date()) }, order: { seenAt: 'DESC' } });
  }

  /** Two engineers who disable each other at the same moment do it one after the other. */
  private alone<T>(work: (manager: EntityManager) => Promise<T>): Promise<T> {
    return this.dataSource.transaction(async (manager) => {
      await manager.query(`select pg_advisory_xact_lock(hashtextextended('accounts', 0))`);
      return work(manager);
    });
  }

  private async requireAnotherEngineer(
    manager: EntityManager,
    { id, role, disabledAt }: Account,
  ): Promise<void> {
    if (role !== 'engineer' || disabledAt !== null) return;
    const others = await manager.countBy(Account, { id: Not(id), role: 'engineer', disabledAt: IsNull() });
    if (others > 0) return;
    const detail =
      'This is the last engineer: nobody could add people any more. Make somebody else an engineer first. Nothing was changed.';
    throw new ProblemException(409, 'last-engineer', detail);
  }
}

const oneTime = (): string => randomBytes(9).toString('base64url');

async function endAll(manager: EntityManager, id: string): Promise<string[]> {
  const [gone]: [{ token_hash: string }[], number] = await manager.query(
    'delete from session where account_id = $1 returning token_hash',
    [id],
  );
  return gone.map(({ token_hash: hash }) => hash);
}

function view(account: Account, sessions: readonly Session[], own: string): PersonView {
  const { id, person, signInName, role, disabledAt, mustChangePassword, version } = account;
  return {
    ...{ id, person, signInName, role, mustChangePassword, version },
    disabledAt: disabledAt?.toISOString() ?? null,
    sessions: sessions.map((session) => sessionView(session, own)),
  };
}

const sessionView = (
  { id, browser, cameFrom, createdAt, seenAt, tokenHash }: Session,
  own: string,
): OpenSession => ({
  ...{ id, browser, cameFrom },
  openedAt: createdAt.toISOString(),
  seenAt: seenAt.toISOString(),
  own: tokenHash === own,
});
