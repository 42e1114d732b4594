// Accounts and sessions. Passwords are hashed with argon2id; a session is a random token in a cookie, of which the
// database knows only the hash.

import { randomBytes } from 'node:crypto';
import { Injectable } from '@nestjs/common';
import { hash, verify } from '@node-rs/argon2';
import type { Role } from '@drive-keep/api';
import { Subject } from 'rxjs';
import { DataSource, LessThan } from 'typeorm';
import { Logbook } from '../logbook/logbook.service.ts';
import { Plant } from '../plant/plant.entity.ts';
import { ProblemException } from '../problems/problem.ts';
import { Account } from './account.entity.ts';
import { Attempts } from './attempts.ts';
import { badPassword } from './bad-passwords.ts';
import { KnownDevice } from './known-device.entity.ts';
import { RefusedSignIns } from './refused-sign-ins.ts';
import { ScriptTokens } from './script-tokens.service.ts';
import { Session } from './session.entity.ts';
import { hashToken } from './token-hash.ts';

/** A shift and the way home: nobody signs in twice a day, nobody stays signed in for ever. */
const SESSION_HOURS = 12;
/** A browser that was not used for so long is no longer known. */
export const DEVICE_DAYS = 365;

/** How exactly it is known when a session was used, in ms. */
const SEEN_MS = 60_000;
/** Of what a browser calls itself so much is kept. */
const MOST_BROWSER = 200;

/** OWASP's second choice for argon2id (2024): 19 MiB, 2 passes, 1 lane. */
const ARGON2ID = { algorithm: 2, memoryCost: 19_456, timeCost: 2, parallelism: 1 } as const;

export interface NewAccount {
  readonly person: string;
  readonly signInName: string;
  readonly role: Role;
  readonly password: string;
  readonly mustChangePassword: boolean;
}

@Injectable()
export class Access {
  /** Hashes of the tokens whose sessions have ended, as they end. */
  readonly ended = new Subject<string>();
  /** Compared with when a name is unknown, so that the answer takes the same time. */
  private readonly nobody = hash(randomBytes(16).toString('hex'), ARGON2ID);

  constructor(
    private readonly dataSource: DataSource,
    private readonly attempts: Attempts,
    private readonly refused: RefusedSignIns,
    private readonly logbook: Logbook,
    private readonly scripts: ScriptTokens,
  ) {}

  async createAccount({ password, ...account }: NewAccount): Promise<Account> {
    const passwordHash = await hashPassword(password);
    const accounts = this.dataSource.getRepository(Account);
    return accounts.save(
      accounts.create({ ...account, signInName: account.signInName.toLowerCase(), passwordHash }),
    );
  }

  /** The token for the cookie and one for the browser, or a problem. `device` is what the browser brings of the latter. */
  async signIn(
    name: string,
    password: string,
    from: string,
    device: string,
    browser = '',
  ): Promise<SignedIn> {
    const signInName = name.toLowerCase();
    const account = await this.dataSource.getRepository(Account).findOneBy({ signInName });
    const known = account && device !== '' ? await this.isKnown(account, device) : false;
    const attempt = { name: signInName, from, device: known ? hashToken(device) : undefined };
    await this.attempts.count(attempt);
    const right = await verify(account?.passwordHash ?? (await this.nobody), password);
    if (!account || !right || account.disabledAt !== null) {
      await this.refused.note(name);
      throw new ProblemException(401, 'sign-in-refused', 'Name or password is wrong. Nobody was signed in.');
    }
    await this.attempts.forgive(attempt);
    const token = await this.openSession(account, from, browser);
    await this.logbook.write({
      person: account.person,
      action: 'signed-in',
      text: `Signed in as ${account.role}.`,
    });
    return { token, account, device: known ? device : await this.rememberDevice(account) };
  }

  async signOut(token: string): Promise<void> {
    const tokenHash = hashToken(token);
    await this.dataSource.getRepository(Session).delete({ tokenHash });
    this.ended.next(tokenHash);
  }

  /** The account behind a cookie, while its session lasts. */
  async accountOf(token: string): Promise<Account | undefined> {
    const script = await this.scripts.accountOf(token);
    if (script) return script;
    const sessions = this.dataSource.getRepository(Session);
    const session = await sessions.findOneBy({ tokenHash: hashToken(token) });
    if (!session || session.expiresAt <= new Date() || session.account.disabledAt !== null) return undefined;
    if (session.seenAt.getTime() < Date.now() - SEEN_MS)
      await sessions.update({ tokenHash: session.tokenHash }, { seenAt: new Date() });
    return session.account;
  }

  /** All other sessions of the account end with its old password. */
  async changePassword(
    account: Account,
    oldPassword: string,
    newPassword: string,
    token: string,
  ): Promise<void> {
    await this.attempts.countOld(account.id);
    if (!(await verify(account.passwordHash, oldPassword))) {
      throw new ProblemException(403, 'password-wrong', 'The present password is wrong. It was not changed.');
    }
    await this.requireGood(account, newPassword);
    const passwordHash = await hashPassword(newPassword);
    const others = await this.dataSource.transaction(async (manager) => {
      await manager.update(Account, account.id, { passwordHash, mustChangePassword: false });
      const [gone]: [{ token_hash: string }[], number] = await manager.query(
        'delete from session where account_id = $1 and token_hash <> $2 returning token_hash',
        [account.id, hashToken(token)],
      );
      const note = { person: account.person, action: 'password-changed', text: 'Changed the own password.' };
      await this.logbook.write(note, manager);
      return gone;
    });
    for (const { token_hash: ended } of others) this.ended.next(ended);
  }

  private async requireGood({ person, signInName }: Account, password: string): Promise<void> {
    const plant = await this.dataSource.getRepository(Plant).findOneBy({ id: true });
    const bad = badPassword(password, [person, signInName, plant?.name ?? '']);
    if (bad !== undefined) throw new ProblemException(422, 'password-bad', `${bad} It was not changed.`);
  }

  private async isKnown(account: Account, device: string): Promise<boolean> {
    const where = { tokenHash: hashToken(device), account: { id: account.id } };
    const seen = await this.dataSource.getRepository(KnownDevice).update(where, { seenAt: new Date() });
    return seen.affected === 1;
  }

  private async rememberDevice(account: Account): Promise<string> {
    const device = randomBytes(32).toString('base64url');
    const devices = this.dataSource.getRepository(KnownDevice);
    await devices.delete({ seenAt: LessThan(new Date(Date.now() - DEVICE_DAYS * 86_400_000)) });
    await devices.insert({ tokenHash: hashToken(device), account, seenAt: new Date() });
    return device;
  }

  private async openSession(account: Account, cameFrom: string, browser: string): Promise<string> {
    const token = randomBytes(32).toString('base64url');
    const sessions = this.dataSource.getRepository(Session);
    await sessions.delete({ expiresAt: LessThan(new Date()) });
    const expiresAt = new Date(Date.now() + SESSION_HOURS * 3_600_000);
    const seen = { seenAt: new Date(), cameFrom, browser: browser.slice(0, MOST_BROWSER) };
    await sessions.insert({ tokenHash: hashToken(token), account, expiresAt, ...seen });
    return token;
  }
}

export interface SignedIn {
  readonly token: string;
  /** By which the browser is known the next time. */
  readonly device: string;
  readonly account: Account;
}

export const hashPassword = (password: string): Promise<string> => hash(password, ARGON2ID);
