import { afterAll, beforeAll, describe, expect, it } from '@jest/globals';
import type {
  OneTimePassword,
  OpenSession,
  PersonView,
  Problem,
  ScriptTokenView,
  SessionView,
} from '@drive-keep/api';
import { DataSource } from 'typeorm';
import { Caller, RunningPlant } from '../testing/running-plant.ts';

let plant: RunningPlant;
let engineer: Caller;

beforeAll(async () => {
  plant = await RunningPlant.start();
  engineer = await plant.signIn('engineer');
});
afterAll(() => plant.stop());

async function signIn(name: string, password: string): Promise<Caller & { readonly status: number }> {
  const response = await fetch(`${plant.base}/api/session`, {
    method: 'POST',
    headers: { 'content-type': 'application/json', 'user-agent': 'A browser' },
    body: JSON.stringify({ name, password }),
  });
  const cookie = (response.headers.get('set-cookie') ?? '').split(';')[0] ?? '';
  return Object.assign(new Caller(plant.base, cookie), { status: response.status });
}

const add = (signInName: string, role: string) =>
  engineer.post<OneTimePassword & Problem>('people', { person: `P. ${signInName}`, signInName, role });
const people = async (): Promise<readonly PersonView[]> =>
  (await engineer.get<readonly PersonView[]>('people')).body;
const change = (who: PersonView, more: object) => {
  const { person, role, version } = who;
  const body = { person, role, disabled: who.disabledAt !== null, version, ...more };
  return engineer.ask<PersonView & Problem>('PUT', `people/${who.id}`, body);
};

describe('an account', () => {
  it('is added with a password that opens nothing but the choice of one’s own', async () => {
    const { status, body } = await add('Mossop', 'technician');
    expect([status, body.person.signInName]).toEqual([201, 'mossop']);
    const fresh = await signIn('mossop', body.password);
    expect((await fresh.get('register')).status).toBe(403);
    const chosen = { oldPassword: body.password, newPassword: 'kiln-seven-is-warm' };
    expect((await fresh.ask('PUT', 'session/password', chosen)).status).toBe(204);
    expect((await fresh.get('register')).status).toBe(200);
    expect((await add('mossop', 'viewer')).status).toBe(409);
  });

  it('that is disabled is shut out at once, and its name stays with what it did', async () => {
    const { body } = await add('gone', 'technician');
    const there = await signIn('gone', body.password);
    expect((await there.get('session')).status).toBe(200);
    const disabled = await change(body.person, { disabled: true });
    expect(disabled.body.disabledAt).not.toBeNull();
    expect((await there.get('session')).status).toBe(401);
    expect((await signIn('gone', body.password)).status).toBe(401);
    expect((await change(disabled.body, { disabled: false })).body.disabledAt).toBeNull();
    expect((await signIn('gone', body.password)).status).toBe(200);
  });

  it('whose password is given anew is signed out everywhere', async () => {
    const { body } = await add('forgot', 'viewer');
    const before = await signIn('forgot', body.password);
    const { body: fresh } = await engineer.post<OneTimePassword>(`people/${body.person.id}/password`);
    expect((await before.get('session')).status).toBe(401);
    expect((await signIn('forgot', body.password)).status).toBe(401);
    expect((await signIn('forgot', fresh.password)).status).toBe(200);
  });

  it('of the last engineer cannot go, not even when two go at the same moment', async () => {
    const { body } = await add('second', 'engineer');
    const engineers = (await people()).filter(({ role }) => role === 'engineer');
    expect(engineers).toHaveLength(2);
    const both = await Promise.all(engineers.map((each) => change(each, { role: 'viewer' })));
    expect(both.map(({ status }) => status).sort()).toEqual([200, 409]);
    expect(both.find(({ status }) => status === 409)?.body.detail).toMatch(/last engineer/);
    // Whoever is left makes it as it was.
    await plant.app
      .get(DataSource)
      .query(`update account set role = 'engineer' where role = 'viewer' and sign_in_name = 'engineer'`);
    const back = (await people()).find(({ id }) => id === body.person.id);
    if (back) await change(back, { disabled: true });
  });

  it('is changed by one of two people', async () => {
    const { body } = await add('both', 'viewer');
    expect((await change(body.person, { person: 'First' })).status).toBe(200);
    expect((await change(body.person, { person: 'Second' })).status).toBe(409);
  });
});

describe('sessions', () => {
  it('are seen with browser and time, and ended by an engineer or by oneself', async () => {
    const { body } = await add('seen', 'viewer');
    const one = await signIn('seen', body.password);
    await one.ask('PUT', 'session/password', {
      oldPassword: body.password,
      newPassword: 'roller-and-glaze-8',
    });
    expect((await signIn('seen', 'roller-and-glaze-8')).status).toBe(200);
    const { body: own } = await one.get<readonly OpenSession[]>('session/all');
    expect(own.map((each) => [each.browser, each.own])).toEqual(
      expect.arrayContaining([
        ['A browser', true],
        ['A browser', false],
      ]),
    );
  }, 60_000);

  it('of others are ended by nobody but an engineer', async () => {
    const { body } = await add('mine', 'viewer');
    const mine = await signIn('mine', body.password);
    await mine.ask('PUT', 'session/password', {
      oldPassword: body.password,
      newPassword: 'roller-and-glaze-9',
    });
    const other = (await people()).find(({ signInName }) => signInName === 'seen')?.sessions[0];
    expect((await mine.ask('DELETE', `session/all/${other?.id ?? ''}`)).status).toBe(404);
    expect((await mine.ask('DELETE', `people/sessions/${other?.id ?? ''}`)).status).toBe(403);
    expect((await engineer.ask('DELETE', `people/sessions/${other?.id ?? ''}`)).status).toBe(204);
    const [own] = (await mine.get<readonly OpenSession[]>('session/all')).body;
    expect((await mine.ask('DELETE', `session/all/${own?.id ?? ''}`)).status).toBe(204);
    expect((await mine.get('session')).status).toBe(401);
  });
});

describe('a token for scripts', () => {
  const with_ = (token: string, path: string, method = 'GET') =>
    fetch(`${plant.base}/api/${path}`, { method, headers: { authorization: `Bearer ${token}` } });

  it('opens what its role opens, is written down by its name, and ends', async () => {
    const { body } = await engineer.post<{ token: string; made: ScriptTokenView }>('script-tokens', {
      ...{ name: 'report', role: 'viewer', days: 30 },
    });
    const session = (await (await with_(body.token, 'session')).json()) as SessionView;
    expect([session.person, session.role]).toEqual(['Script "report"', 'viewer']);
    expect((await with_(body.token, 'backups', 'POST')).status).toBe(403);
    const kept: unknown = await plant.app.get(DataSource).query('select * from script_token');
    expect(JSON.stringify(kept)).not.toContain(body.token);
    expect((await engineer.ask('DELETE', `script-tokens/${body.made.id}`)).status).toBe(204);
    expect((await with_(body.token, 'session')).status).toBe(401);
  });

  it('that has run out or is made up opens nothing', async () => {
    const { body } = await engineer.post<{ token: string; made: ScriptTokenView }>('script-tokens', {
      ...{ name: 'old', role: 'viewer', days: 1 },
    });
    await plant.app
      .get(DataSource)
      .query(`update script_token set expires_at = now() - interval '1 s' where name = 'old'`);
    expect((await with_(body.token, 'session')).status).toBe(401);
    expect((await with_('dk_made-up', 'session')).status).toBe(401);
  });
});
