// Tokens for scripts: named, with a role and an end, shown once and kept as a hash.

import { randomBytes } from 'node:crypto';
import { Injectable } from '@nestjs/common';
import type { Role, ScriptTokenView } from '@drive-keep/api';
import { DataSource, IsNull, MoreThan } from 'typeorm';
import { Logbook } from '../logbook/logbook.service.ts';
import { notFound } from '../problems/problem.ts';
import { isUuid } from '../storage/uuid.ts';
import { Account } from './account.entity.ts';
import { ScriptToken } from './script-token.entity.ts';
import { hashToken } from './token-hash.ts';

/** By which a token is told from the cookie of a session. */
const PREFIX = 'dk_';
const DAY_MS = 86_400_000;
/** How exactly it is known when one was used, in ms. */
const SEEN_MS = 60_000;

@Injectable()
export class ScriptTokens {
  constructor(
    private readonly dataSource: DataSource,
    private readonly logbook: Logbook,
  ) {}

  async views(): Promise<readonly ScriptTokenView[]> {
    const tokens = await this.dataSource.getRepository(ScriptToken).find({ order: { madeAt: 'DESC' } });
    return tokens.map(view);
  }

  async make(
    name: string,
    role: Role,
    days: number,
    { person }: Account,
  ): Promise<{ token: string; made: ScriptTokenView }> {
    const token = `${PREFIX}${randomBytes(32).toString('base64url')}`;
    const expiresAt = new Date(Date.now() + days * DAY_MS);
    const tokens = this.dataSource.getRepository(ScriptToken);
    const { id } = await tokens.save(
      tokens.create({ name, role, expiresAt, tokenHash: hashToken(token), madeBy: person }),
    );
    const text = `Made the token "${name}" for scripts, as ${role}, for ${days} days.`;
    await this.logbook.write({ person, action: 'token-made', text });
    return { token, made: view(await tokens.findOneByOrFail({ id })) };
  }

  async end(id: string, { person }: Account): Promise<void> {
    const tokens = this.dataSource.getRepository(ScriptToken);
    const token = isUuid(id) ? await tokens.findOneBy({ id, endedAt: IsNull() }) : null;
    if (!token) throw notFound('This token');
    await tokens.update({ id }, { endedAt: new Date() });
    await this.logbook.write({ person, action: 'token-ended', text: `Ended the token "${token.name}".` });
  }

  /** Who a request with this token is; nothing where it is none, has ended or run out. */
  async accountOf(token: string): Promise<Account | undefined> {
    if (!token.startsWith(PREFIX)) return undefined;
    const tokens = this.dataSource.getRepository(ScriptToken);
    const where = { tokenHash: hashToken(token), endedAt: IsNull(), expiresAt: MoreThan(new Date()) };
    const found = await tokens.findOneBy(where);
    if (!found) return undefined;
    if ((found.usedAt?.getTime() ?? 0) < Date.now() - SEEN_MS)
      await tokens.update({ id: found.id }, { usedAt: new Date() });
    const account = { id: found.id, person: `Script "${found.name}"`, signInName: '', role: found.role };
    return Object.assign(new Account(), account, { mustChangePassword: false, disabledAt: null });
  }
}

const view = ({
  id,
  name,
  role,
  madeBy,
  madeAt,
  expiresAt,
  usedAt,
  endedAt,
}: ScriptToken): ScriptTokenView => ({
  ...{ id, name, role, madeBy },
  madeAt: madeAt.toISOString(),
  expiresAt: expiresAt.toISOString(),
  usedAt: usedAt?.toISOString() ?? null,
  endedAt: endedAt?.toISOString() ?? null,
});
