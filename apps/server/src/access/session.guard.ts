// Every route but those marked open asks for a session; some ask for a role. Bound to the whole application, so that a
// new route is closed until somebody opens it.

import {
  createParamDecorator,
  Injectable,
  SetMetadata,
  type CanActivate,
  type ExecutionContext,
} from '@nestjs/common';
import { Reflector } from '@nestjs/core';
import { ROLES, type Permission, type Role } from '@drive-keep/api';
import { parseCookie } from 'cookie';
import type { Request } from 'express';
import { DataSource } from 'typeorm';
import { leastRole } from '../plant/permissions.ts';
import { Plant } from '../plant/plant.entity.ts';
import { ProblemException } from '../problems/problem.ts';
import type { Account } from './account.entity.ts';
import { Access } from './access.service.ts';

export const COOKIE = 'drive_keep_session';

export const Open = () => SetMetadata('open', true);
/** The least role that may use a route. */
export const NeedsRole = (role: Role) => SetMetadata('role', role);
/** Open to the least role that the plant gives it to. */
export const May = (permission: Permission) => SetMetadata('may', permission);
/** May be used while the one-time password is still in use. */
export const BeforePasswordChange = () => SetMetadata('beforePasswordChange', true);

export type SignedInRequest = Request & { account?: Account };

export const Person = createParamDecorator((_: unknown, context: ExecutionContext): Account => {
  const { account } = context.switchToHttp().getRequest<SignedInRequest>();
  if (!account) throw new Error('route without session');
  return account;
});

/** Of a script that says who it is, or of the browser's session. */
export function tokenOf({ headers }: Request): string {
  const bearer = /^Bearer (\S+)$/.exec(headers.authorization ?? '')?.[1];
  return bearer ?? parseCookie(headers.cookie ?? '')[COOKIE] ?? '';
}

@Injectable()
export class SessionGuard implements CanActivate {
  constructor(
    private readonly access: Access,
    private readonly dataSource: DataSource,
    private readonly reflector: Reflector,
  ) {}

  async canActivate(context: ExecutionContext): Promise<boolean> {
    const targets = [context.getHandler(), context.getClass()];
    if (this.reflector.getAllAndOverride<boolean>('open', targets)) return true;
    const request = context.switchToHttp().getRequest<SignedInRequest>();
    const token = tokenOf(request);
    const account = token === '' ? undefined : await this.access.accountOf(token);
    if (!account)
      throw new ProblemException(401, 'not-signed-in', 'Sign in first; the session may have ended.');
    request.account = account;
    const early = this.reflector.getAllAndOverride<boolean>('beforePasswordChange', targets);
    if (account.mustChangePassword && !early) {
      throw new ProblemException(403, 'password-change-due', 'Choose a password of your own first.');
    }
    const permission = this.reflector.getAllAndOverride<Permission>('may', targets);
    const least = permission ? leastRole(await this.plant(), permission) : undefined;
    this.requireRole(account, least ?? this.reflector.getAllAndOverride<Role>('role', targets) ?? 'viewer');
    return true;
  }

  private plant(): Promise<Plant | null> {
    return this.dataSource.getRepository(Plant).findOneBy({ id: true });
  }

  private requireRole(account: Account, wanted: Role): void {
    if (ROLES.indexOf(account.role) >= ROLES.indexOf(wanted)) return;
    const detail = `A ${account.role} may look but not do this; it takes a ${wanted}. Nothing was changed.`;
    throw new ProblemException(403, 'role', detail);
  }
}
