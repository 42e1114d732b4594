// Every route with every role and state, from the running application against the table that stands in route-roles.json. A
// route that is new, or that lost its role, does not fit the table.

import { readFileSync } from 'node:fs';
import { join } from 'node:path';
import { afterAll, beforeAll, describe, expect, it } from '@jest/globals';
import { ROLES, type Problem, type Role } from '@drive-keep/api';
import { Caller, RunningPlant } from '../testing/running-plant.ts';
import { Access } from './access.service.ts';

/** The least that opens a route: nobody, somebody with a one-time password, or a role. */
type Opens = 'nobody' | 'one-time' | Role;

const TABLE = JSON.parse(readFileSync(join(import.meta.dirname, 'route-roles.json'), 'utf8')) as Readonly<
  Record<string, Opens>
>;

let plant: RunningPlant;
const callers = new Map<Opens | 'forged', Caller>();
let routes: readonly { readonly name: string; readonly method: string; readonly path: string }[];

beforeAll(async () => {
  plant = await RunningPlant.start();
  callers.set('nobody', new Caller(plant.base, ''));
  callers.set('forged', new Caller(plant.base, 'drive_keep_session=AAAA'));
  for (const role of ROLES) callers.set(role, await plant.signIn(role));
  const account = { person: 'N. Fold', signInName: 'fold', role: 'engineer' as const };
  await plant.app
    .get(Access)
    .createAccount({ ...account, password: 'one-time-only', mustChangePassword: true });
  const { token } = await plant.app.get(Access).signIn('fold', 'one-time-only', 'test', '');
  callers.set('one-time', new Caller(plant.base, `drive_keep_session=${token}`));
  const { body } = await of('viewer').get<{ paths: Record<string, Record<string, unknown>> }>('openapi.json');
  routes = Object.entries(body.paths).flatMap(([path, methods]) =>
    Object.keys(methods).map((method) => ({
      name: `${method.toUpperCase()} ${path}`,
      method: method.toUpperCase(),
      path: path.replace('/api/', '').replace(/\{\w+\}/g, 'no-such-thing'),
    })),
  );
});
afterAll(() => plant.stop());

const of = (who: Opens | 'forged'): Caller => {
  const caller = callers.get(who);
  if (!caller) throw new Error(who);
  return caller;
};

/** Whether the door opens; what is behind it may still refuse the empty request. */
async function opens(who: Opens | 'forged', method: string, path: string): Promise<boolean> {
  const { status, body } = await of(who).ask<Problem>(method, path, method === 'GET' ? undefined : {});
  if (status === 401 && body.type === 'urn:drive-keep:not-signed-in') return false;
  return !(
    status === 403 && ['urn:drive-keep:role', 'urn:drive-keep:password-change-due'].includes(body.type)
  );
}

const ORDER: readonly Opens[] = ['nobody', 'one-time', ...ROLES];

describe('the doors of the API', () => {
  it('are those of the table, each with the least that opens it', async () => {
    const found: Record<string, Opens> = {};
    for (const { name, method, path } of routes) {
      // Signing out comes last: it would close all others.
      if (name === 'DELETE /api/session') continue;
      for (const who of ORDER) {
        if (!(await opens(who, method, path))) continue;
        found[name] = who;
        break;
      }
    }
    found['DELETE /api/session'] = 'one-time';
    expect(found).toEqual(TABLE);
  }, 120_000);

  it('stay shut for whoever has less, in every state, and open for whoever has more', async () => {
    for (const { name, method, path } of routes) {
      if (name === 'DELETE /api/session') continue;
      const least = ORDER.indexOf(TABLE[name] ?? 'engineer');
      for (const who of ['nobody', 'forged', 'one-time', ...ROLES] as const) {
        // A one-time password opens what it needs for choosing another one, whatever the role.
        const rank = who === 'forged' ? 0 : ORDER.indexOf(who);
        expect([name, who, await opens(who, method, path)]).toEqual([name, who, rank >= least]);
      }
    }
  }, 180_000);

  it('of signing out is open to whoever is signed in, and closes all others', async () => {
    expect(await opens('nobody', 'DELETE', 'session')).toBe(false);
    const leaving = await plant.signIn('viewer');
    expect((await leaving.ask('DELETE', 'session')).status).toBe(204);
    expect((await leaving.get('register')).status).toBe(401);
  });
});

describe('a page of another address', () => {
  const send = (headers: Record<string, string>, body = '{"name":"viewer","password":"look-only-1"}') =>
    fetch(`${plant.base}/api/session`, { method: 'POST', headers, body });
  const json = { 'content-type': 'application/json' };

  it.each([
    ['from another port', { ...json, origin: 'http://127.0.0.1:1' }, 403],
    ['from no origin at all', { ...json, origin: 'null' }, 403],
    ['that the browser calls another site’s', { ...json, 'sec-fetch-site': 'cross-site' }, 403],
    ['that the browser calls the same site’s', { ...json, 'sec-fetch-site': 'same-site' }, 403],
    ['as a plain form', { 'content-type': 'application/x-www-form-urlencoded' }, 415],
    ['as text that is JSON', { 'content-type': 'text/plain' }, 415],
    [
      'as a form with a file and without our header',
      { 'content-type': 'multipart/form-data; boundary=x' },
      415,
    ],
  ])('signs nobody in %s', async (_, headers, status) => {
    const response = await send(headers);
    expect([response.status, response.headers.get('set-cookie')]).toEqual([status, null]);
    expect(((await response.json()) as Problem).detail).toMatch(/Nothing was changed\.$/);
  });

  it('is not our own: that one gets in', async () => {
    const own = await send({ ...json, origin: plant.base, 'sec-fetch-site': 'same-origin' });
    expect(own.status).toBe(200);
  });
});
