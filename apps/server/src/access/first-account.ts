// An installation without accounts gets one engineer with a one-time password, which is shown once.

import { randomBytes } from 'node:crypto';
import { DataSource } from 'typeorm';
import { Account } from './account.entity.ts';
import type { Access } from './access.service.ts';

export interface FirstAccount {
  readonly name: string;
  readonly password: string;
}

export async function makeFirstAccount(
  access: Access,
  dataSource: DataSource,
): Promise<FirstAccount | undefined> {
  if ((await dataSource.getRepository(Account).count()) > 0) return undefined;
  const password = randomBytes(9).toString('base64url');
  const name = 'engineer';
  await access.createAccount({
    person: 'First engineer',
    signInName: name,
    role: 'engineer',
    password,
    mustChangePassword: true,
  });
  return { name, password };
}
