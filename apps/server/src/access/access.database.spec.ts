import { afterAll, beforeAll, describe, expect, it } from '@jest/globals';
import type {
  ComparisonView,
  LogbookPage,
  Problem,
  PositionDetailView,
  RegisterPage,
  SessionView,
  StartedJob,
} from '@drive-keep/api';
import { DataSource } from 'typeorm';
import { Caller, RunningPlant } from '../testing/running-plant.ts';
import { Access } from './access.service.ts';
import { makeFirstAccount } from './first-account.ts';
import { RefusedSignIns } from './refused-sign-ins.ts';

let plant: RunningPlant;
let technician: Caller;
let stranger: Caller;

beforeAll(async () => {
  plant = await RunningPlant.start();
  technician = await plant.signIn('technician');
  stranger = new Caller(plant.base, '');
});
afterAll(() => plant.stop());

const query = (statement: string, values: unknown[] = []) =>
  plant.app.get(DataSource).query<Record<string, unknown>[]>(statement, values);

describe('sign-in', () => {
  const signIn = (name: string, password: string) =>
    stranger.post<Problem & SessionView>('session', { name, password });

  it('sets a cookie that scripts cannot read and other sites do not send', async () => {
    const response = await fetch(`${plant.base}/api/session`, {
      method: 'POST',
      headers: { 'content-type': 'application/json' },
      body: JSON.stringify({ name: 'Viewer', password: 'look-only-1' }),
    });
    expect(response.headers.get('set-cookie')).toMatch(/HttpOnly; SameSite=Strict/);
    expect(await response.json()).toMatchObject({
      person: 'M. Quill',
      role: 'viewer',
      plant: 'Fennimoor Tileworks',
    });
  });

  it('keeps neither password nor token as they are', async () => {
    const [account] = await query(`select password_hash from account where sign_in_name = 'viewer'`);
    expect(account?.['password_hash']).toMatch(/^\$argon2id\$v=19\$m=19456,t=2,p=1\$/);
    const [session] = await query(`select token_hash from session limit 1`);
    expect(session?.['token_hash']).toMatch(/^[0-9a-f]{64}$/);
  });

  it('says the same for an unknown name and a wrong password', async () => {
    const [one, other] = [await signIn('nobody', 'x'), await signIn('engineer', 'x')];
    expect([one.status, other.status]).toEqual([401, 401]);
    expect(one.body.detail).toBe(other.body.detail);
  });

  it('is stopped after too many wrong attempts, for that name only', async () => {
    const statuses: number[] = [];
    for (let attempt = 0; attempt < 10; attempt += 1) statuses.push((await signIn('guessed', 'x')).status);
    expect(statuses.at(0)).toBe(401);
    expect(statuses.at(-1)).toBe(429);
    expect((await signIn('viewer', 'look-only-1')).status).toBe(200);
  });

  it('is not stopped by somebody else’s guessing in a browser that has signed in before', async () => {
    const ask = (password: string, cookie = '') =>
      fetch(`${plant.base}/api/session`, {
        method: 'POST',
        headers: { 'content-type': 'application/json', cookie },
        body: JSON.stringify({ name: 'technician', password }),
      });
    const first = await ask('roller-table');
    const device = first.headers.getSetCookie().find((each) => each.startsWith('drive_keep_device')) ?? '';
    expect(device).toMatch(/HttpOnly; SameSite=Strict/);
    for (let attempt = 0; attempt < 10; attempt += 1) await ask('guess');
    expect((await ask('roller-table')).status).toBe(429);
    expect((await ask('roller-table', device.split(';')[0])).status).toBe(200);
    // The browser of one account is no pass for another one.
    expect((await ask('roller-table', 'drive_keep_device=AAAA')).status).toBe(429);
  });

  it('that was refused again and again is one entry of the logbook, not one each', async () => {
    const refused = plant.app.get(RefusedSignIns);
    await refused.tell();
    const entries = async () =>
      Number((await query(`select count(*) from logbook where action = 'sign-in-refused'`))[0]?.['count']);
    const before = await entries();
    for (let attempt = 0; attempt < 6; attempt += 1) await signIn(`somebody-${attempt % 2}`, 'x');
    await refused.tell();
    expect((await entries()) - before).toBe(2);
    const [last] = await query(
      `select text from logbook where action = 'sign-in-refused' order by id desc limit 1`,
    );
    expect(last?.['text']).toMatch(/5 more times within 5 min: "somebody-1" 3 times, "somebody-0" 2 times/);
  });

  it('ends with sign-out and when its time is over', async () => {
    const viewer = await plant.signIn('viewer');
    expect((await viewer.get('session')).status).toBe(200);
    expect((await viewer.ask('DELETE', 'session')).status).toBe(204);
    expect((await viewer.get('session')).status).toBe(401);
    const engineer = await plant.signIn('engineer');
    await query(`update session set expires_at = now() - interval '1 minute'
                 from account where account.id = session.account_id and sign_in_name = 'engineer'`);
    expect((await engineer.get('session')).status).toBe(401);
  });

  it('with a one-time password leads only to choosing a password', async () => {
    const access = plant.app.get(Access);
    const password = 'one-time-only';
    await access.createAccount({
      person: 'N. Fold',
      signInName: 'Fold',
      role: 'engineer',
      password,
      mustChangePassword: true,
    });
    const response = await fetch(`${plant.base}/api/session`, {
      method: 'POST',
      headers: { 'content-type': 'application/json' },
      body: JSON.stringify({ name: 'fold', password }),
    });
    const fold = new Caller(plant.base, (response.headers.get('set-cookie') ?? '').split(';')[0] ?? '');
    expect((await fold.get('register')).status).toBe(403);
    expect(
      (await fold.ask('PUT', 'session/password', { oldPassword: 'wrong', newPassword: 'long-enough-1' }))
        .status,
    ).toBe(403);
    expect(
      (await fold.ask('PUT', 'session/password', { oldPassword: password, newPassword: 'short' })).status,
    ).toBe(400);
    expect(
      (await fold.ask('PUT', 'session/password', { oldPassword: password, newPassword: 'long-enough-1' }))
        .status,
    ).toBe(204);
    expect((await fold.get('register')).status).toBe(200);
  });

  it('of all other browsers ends when the password changes, and what they follow with it', async () => {
    const access = plant.app.get(Access);
    await access.createAccount({
      ...{ person: 'W. Sedge', signInName: 'sedge', role: 'viewer' as const },
      ...{ password: 'reeds-by-the-water', mustChangePassword: false },
    });
    const enter = async () => {
      const response = await fetch(`${plant.base}/api/session`, {
        method: 'POST',
        headers: { 'content-type': 'application/json' },
        body: JSON.stringify({ name: 'sedge', password: 'reeds-by-the-water' }),
      });
      return (response.headers.get('set-cookie') ?? '').split(';')[0] ?? '';
    };
    const [here, elsewhere] = [await enter(), await enter()];
    const { job } = (
      await technician.post<StartedJob>('backups', { positions: ['KL1-RD-12'], reason: 'Silent' })
    ).body;
    const stream = await fetch(`${plant.base}/api/jobs/${job.id}/events`, { headers: { cookie: elsewhere } });
    const ended = stream.text();
    const own = new Caller(plant.base, here);
    const change = (oldPassword: string, newPassword: string) =>
      own.ask<Problem>('PUT', 'session/password', { oldPassword, newPassword });
    const bad = await change('reeds-by-the-water', 'Password2026!');
    expect([bad.status, bad.body.detail]).toEqual([422, expect.stringContaining('guessed first')]);
    expect((await change('reeds-by-the-water', 'otters-in-the-reeds')).status).toBe(204);
    await ended;
    expect((await new Caller(plant.base, elsewhere).get('session')).status).toBe(401);
    expect((await own.get('session')).status).toBe(200);
    const guesses: number[] = [];
    for (let guess = 0; guess < 10; guess += 1)
      guesses.push((await change('wrong', 'otters-in-reeds-2')).status);
    expect([guesses[0], guesses.at(-1)]).toEqual([403, 429]);
  });

  it('makes no first account where there are accounts', async () => {
    expect(await makeFirstAccount(plant.app.get(Access), plant.app.get(DataSource))).toBeUndefined();
  });
});

describe('what was kept', () => {
  it.each(['logbook', 'backup', 'baseline', 'set_content', 'dictionary'])(
    'in %s is neither changed nor deleted',
    async (table) => {
      const count = async () => (await query(`select count(*) from ${table}`))[0]?.['count'];
      const before = await count();
      for (const statement of [`delete from ${table}`, `truncate ${table} cascade`]) {
        await expect(query(statement)).rejects.toThrow(/keeps what it holds/);
      }
      expect(await count()).toBe(before);
    },
  );

  it('is not shown when its content is damaged', async () => {
    const [row] = await query(
      `select b.content_hash as hash from backup b join position p on p.id = b.position_id
       where p.tag = 'KL1-RD-11' order by b.taken_at desc limit 1`,
    );
    await query('alter table set_content disable trigger mended');
    await query(
      `update set_content set content = overlay(content placing '9'::bytea from 200) where hash = $1`,
      [row?.['hash']],
    );
    await query('alter table set_content enable trigger mended');
    const { status, body } = await technician.get<Problem>(
      'positions/KL1-RD-11/comparison?a=default&b=newest',
    );
    expect([status, body.type]).toEqual([500, 'urn:drive-keep:content-damaged']);
    expect(body.detail).toContain(String(row?.['hash']).slice(0, 19));
  });
});

describe('the register and its comparisons', () => {
  it('shows the plant of 42 positions, of which one section drifts, one is silent and one was swapped', async () => {
    const { positions } = (await technician.get<RegisterPage>('register')).body;
    expect(positions).toHaveLength(42);
    const of = (tag: string) => positions.find((position) => position.tag === tag);
    expect([of('KL1-RD-07')?.drift, of('KL1-RD-03')?.drift]).toEqual([4, 0]);
    expect([of('KL1-RD-12')?.lastTry?.outcome, of('KL1-RD-10')?.lastTry?.outcome]).toEqual([
      'no-answer',
      'other-serial',
    ]);
    const sections = positions.filter(({ tag }) => tag.startsWith('KL1-RD'));
    expect(sections.map(({ baselineRevision }) => baselineRevision)).toEqual(Array(12).fill(3));
  });

  it('shows the fan that was reset for the wrong region, the pump of the night shift and the old belt', async () => {
    const changes = async (tag: string) =>
      (await technician.get<ComparisonView>(`positions/${tag}/comparison`)).body.rows.map(
        ({ code, change }) => `${code} ${change}`,
      );
    expect(await changes('KL1-CA-01')).toEqual(
      expect.arrayContaining(['FM04 +10.0 Hz (×1.2)', 'FL02 −70.0 s (×0.22)']),
    );
    expect(await changes('GL-PU-01')).toEqual(['RA1 −3.5 s (×0.42)', 'RB2 +25.0 % (×1.3)']);
    const { body } = await technician.get<PositionDetailView>('positions/PR-PB-01');
    const months = (Date.now() - new Date(body.newestBackup ?? 0).getTime()) / (30.4 * 86_400_000);
    expect(Math.floor(months)).toBe(13);
    expect(body.unit.line).toBeNull();
  });

  it('compares any two sets of a position, each by its name', async () => {
    const compare = async (a: string, b: string) =>
      (await technician.get<ComparisonView>(`positions/KL1-RD-07/comparison?a=${a}&b=${b}`)).body;
    expect((await compare('newest', 'newest')).rows).toEqual([]);
    const revisions = await compare('baseline:1', 'baseline:3');
    expect(revisions.rows.map((row) => row.change)).toEqual([
      '+4.50 Hz (×1.1)',
      '+3.00 Hz (×1.1)',
      '−20 % (×0.89)',
      '−2.0 s (×0.60)',
    ]);
    const withDefaults = await compare('default', 'baseline');
    expect(withDefaults.rows.length).toBeGreaterThan(25);
  });

  it.each(['nonsense', 'baseline:99', 'backup:x', 'backup:00000000-0000-4000-8000-000000000000'])(
    'says that there is no set called %s',
    async (reference) => {
      const { status, body } = await technician.get<Problem>(`positions/KL1-RD-07/comparison?a=${reference}`);
      expect([400, 404]).toContain(status);
      expect(body.detail.length).toBeGreaterThan(20);
    },
  );

  it('shows monitors only when they are asked for', async () => {
    await plant.backUp(technician, 'KL1-RD-01');
    const rows = async (noise: string) =>
      (await technician.get<ComparisonView>(`positions/KL1-RD-01/comparison?b=newest&noise=${noise}`)).body
        .rows;
    expect(await rows('no')).toEqual([]);
    expect((await rows('yes')).length).toBeGreaterThan(20);
  });
});

describe('the logbook', () => {
  it('is read page by page without gaps or repeats', async () => {
    const seen: string[] = [];
    let before = '';
    for (let pages = 0; pages < 40; pages += 1) {
      const { body } = await technician.get<LogbookPage>(`logbook?most=7${before}`);
      seen.push(...body.entries.map((entry) => entry.id));
      if (body.next === null) break;
      before = `&before=${body.next}`;
    }
    const [total] = await query('select count(*) from logbook');
    expect(new Set(seen).size).toBe(seen.length);
    expect(seen).toHaveLength(Number(total?.['count']));
  });

  it('finds words as they are, not as patterns', async () => {
    const found = async (find: string) =>
      (await technician.get<LogbookPage>(`logbook?find=${encodeURIComponent(find)}`)).body.entries;
    expect((await found('longer ramp')).map(({ tag }) => tag)).toContain('KL1-RD-07');
    expect(await found('100%_')).toEqual([]);
  });
});
