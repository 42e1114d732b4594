// Accounts and sessions. Passwords are hashed with argon2id; a session is a random token in a cookie, of which the
// database knows only the hash.

import { createHash, randomBytes } from 'node:crypto';
import { Injectable } from '@nestjs/common';
import { hash, verify } from '@node-rs/argon2';
import type { Role } from '@drive-keep/api';
import { RateLimiterMemory, RateLimiterRes } from 'rate-limiter-flexible';
import { DataSource, LessThan } from 'typeorm';
import { Logbook } from '../logbook/logbook.service.ts';
import { ProblemException } from '../problems/problem.ts';
import { Account } from './account.entity.ts';
import { Session } from './session.entity.ts';

/** A shift and the way home: nobody signs in twice a day, nobody stays signed in for ever. */
const SESSION_HOURS = 12;
/** Wrong passwords per name and address within the window; a person who mistypes stays below. */
const MOST_ATTEMPTS = 8;
const WINDOW_SECONDS = 300;

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
  private readonly limiter = new RateLimiterMemory({ points: MOST_ATTEMPTS, duration: WINDOW_SECONDS });
  /** Compared with when a name is unknown, so that the answer takes the same time. */
  private readonly nobody = hash(randomBytes(16).toString('hex'), ARGON2ID);

  constructor(
    private readonly dataSource: DataSource,
    private readonly logbook: Logbook,
  ) {}

  async createAccount({ password, ...account }: NewAccount): Promise<Account> {
    const passwordHash = await hash(password, ARGON2ID);
    const accounts = this.dataSource.getRepository(Account);
    return accounts.save(
      accounts.create({ ...account, signInName: account.signInName.toLowerCase(), passwordHash }),
    );
  }

  /** The token for the cookie, or a problem. */
  async signIn(name: string, password: string, from: string): Promise<{ token: string; account: Account }> {
    const key = `${from}|${name.toLowerCase()}`;
    await this.countAttempt(key);
    const account = await this.dataSource
      .getRepository(Account)
      .findOneBy({ signInName: name.toLowerCase() });
    const right = await verify(account?.passwordHash ?? (await this.nobody), password);
    if (!account || !right) {
      await this.logbook.write({
        person: 'nobody',
        action: 'sign-in-refused',
        text: `Sign-in refused for "${name}".`,
      });
      throw new ProblemException(401, 'sign-in-refused', 'Name or password is wrong. Nobody was signed in.');
    }
    await this.limiter.delete(key);
    const token = await this.openSession(account);
    await this.logbook.write({
      person: account.person,
      action: 'signed-in',
      text: `Signed in as ${account.role}.`,
    });
    return { token, account };
  }

  async signOut(token: string): Promise<void> {
    await this.dataSource.getRepository(Session).delete({ tokenHash: hashToken(token) });
  }

  /** The account behind a cookie, while its session lasts. */
  async accountOf(token: string): Promise<Account | undefined> {
    const session = await this.dataSource.getRepository(Session).findOneBy({ tokenHash: hashToken(token) });
    return session && session.expiresAt > new Date() ? session.account : undefined;
  }

  async changePassword(account: Account, oldPassword: string, newPassword: string): Promise<void> {
    if (!(await verify(account.passwordHash, oldPassword))) {
      throw new ProblemException(403, 'password-wrong', 'The present password is wrong. It was not changed.');
    }
    const passwordHash = await hash(newPassword, ARGON2ID);
    await this.dataSource
      .getRepository(Account)
      .update(account.id, { passwordHash, mustChangePassword: false });
    await this.logbook.write({
      person: account.person,
      action: 'password-changed',
      text: 'Changed the own password.',
    });
  }

  private async openSession(account: Account): Promise<string> {
    const token = randomBytes(32).toString('base64url');
    const sessions = this.dataSource.getRepository(Session);
    await sessions.delete({ expiresAt: LessThan(new Date()) });
    const expiresAt = new Date(Date.now() + SESSION_HOURS * 3_600_000);
    await sessions.insert({ tokenHash: hashToken(token), account, expiresAt });
    return token;
  }

  private async countAttempt(key: string): Promise<void> {
    try {
      await this.limiter.consume(key);
    } catch (error) {
      if (!(error instanceof RateLimiterRes)) throw error;
      const minutes = Math.ceil(error.msBeforeNext / 60_000);
      const detail = `Too many wrong attempts for this name. Try again in ${minutes} min.`;
      throw new ProblemException(429, 'too-many-attempts', detail);
    }
  }
}

const hashToken = (token: string): string => createHash('sha256').update(token).digest('hex');
