import { afterAll, beforeAll, describe, expect, it, jest } from '@jest/globals';
import type {
  ChecksView,
  PlantFindingsView,
  PositionSiteView,
  Problem,
  RegisterPage,
  WritePlanView,
} from '@drive-keep/api';
import { DataSource } from 'typeorm';
import { RunningPlant, type Caller } from '../testing/running-plant.ts';
import { dayOf } from '../tolerations/tolerations.service.ts';
import { ContentStore } from '../sets/content-store.service.ts';
import { CheckGrounds } from './check-grounds.service.ts';
import { Checks } from './checks.service.ts';

let plant: RunningPlant;
let engineer: Caller;
let technician: Caller;
let viewer: Caller;
let data: DataSource;

beforeAll(async () => {
  plant = await RunningPlant.start();
  [engineer, technician, viewer] = await Promise.all([
    plant.signIn('engineer'),
    plant.signIn('technician'),
    plant.signIn('viewer'),
  ]);
  data = plant.app.get(DataSource);
});
afterAll(() => plant.stop());

const BELT = 'GL-BE-01';
const SECTION = 'KL1-RD-07';
const day = (inDays: number) => dayOf(new Date(Date.now() + inDays * 86_400_000));
const checks = async (tag: string, set = 'newest', by: Caller = viewer) =>
  (await by.get<ChecksView & Problem>(`positions/${tag}/checks?set=${set}`)).body;
const ids = ({ findings }: ChecksView) => findings.map(({ identity }) => identity);
const findingAt = async (tag: string, identity: string) => {
  const found = (await checks(tag)).findings.find((each) => each.identity === identity);
  if (!found) throw new Error(`${tag} has no ${identity}`);
  return found;
};
const accept = async (tag: string, identity: string, more: object = {}, by: Caller = engineer) => {
  const { signature } = await findingAt(tag, identity);
  const wish = { identity, signature, reason: 'Agreed with the shift', until: day(30), ...more };
  return by.post<ChecksView & Problem>(`positions/${tag}/accepted-findings`, wish);
};

describe('the checks of a position', () => {
  it('say what is wrong, why, where it stands and what would mend it', async () => {
    const view = await checks(BELT);
    expect(ids(view)).toEqual(['overload-over-plate']);
    const [found] = view.findings;
    expect(found?.text).toBe('The overload level is 1.30 A, and the motor bears 1.1 A for ever: 118 %.');
    expect(found).toMatchObject({ attention: 'stop', values: [{ code: '5/01', reading: 100 }] });
    expect(found?.mends[0]).toEqual([{ code: '5/01', raw: 85 }]);
    expect(view.with).toMatchObject({ motor: true, wiring: 1, supply: true, cabinet: true, peers: 1 });
    expect(view.looked).toBeGreaterThan(30);
    expect(view.looked).toBeLessThan(55);
    expect(view.untold.map(({ check }) => check)).toContain('baseline-unproved');
  });

  it('tell of a plan what it changes: fewer, more, and nothing of what stays', async () => {
    const target = 'values:02P=360,05C=0';
    const planned = await technician.post<WritePlanView>(`positions/${SECTION}/write-plans`, { target });
    expect([planned.status, planned.body.target]).toEqual([201, '02P 3.60 A, 05C 0 hand']);
    expect(planned.body.steps.map(({ code }) => code).sort()).toEqual(['02P', '05C']);
    const { against, title } = await checks(SECTION, `plan:${planned.body.id}`);
    expect(title).toBe('What the write plan leads to');
    expect(against?.fewer.map(({ identity }) => identity)).toEqual([
      'overload-over-plate',
      'start-at-power-up',
    ]);
    expect(against?.more.map(({ identity }) => identity)).toEqual(['hand-at-power-up']);
    const tried = await checks(SECTION, 'values:02P=360');
    expect(tried.against?.fewer.map(({ identity }) => identity)).toEqual(['overload-over-plate']);
    expect((await checks(SECTION, 'values:99Z=1')).detail).toContain('no value of HN64');
    expect((await checks(SECTION, 'values:02P=99999')).detail).toContain('does not take');
    expect((await checks(SECTION, 'values:16U=5')).detail).toContain('does not take');
  });

  it('tell of a file what it would change, before anything of it is kept', async () => {
    const file = (text: string, name = 'part.csv') => {
      const form = new FormData();
      form.append('file', new Blob([text], { type: 'text/csv' }), name);
      return form;
    };
    const path = `positions/${SECTION}/checks/of-file`;
    const part = await technician.post<ChecksView>(path, file('code,value\n02P,3.60\n05C,0\n'));
    expect(part.body.against?.fewer.map(({ identity }) => identity)).toEqual([
      'overload-over-plate',
      'start-at-power-up',
    ]);
    expect(part.body.title).toBe('part.csv');
    const wrong = await technician.post<Problem>(path, file('code,value\n02P,lots\n'));
    expect([wrong.status, wrong.body.detail]).toEqual([422, expect.stringContaining('nothing to check')]);
    expect((await viewer.post(path, file('code,value\n02P,3.60\n'))).status).toBe(403);
  });

  it('cannot be made where nothing is known of the unit that sits there', async () => {
    const [{ id } = { id: '' }]: { id: string }[] = await data.query(
      `select id from position where tag = 'GL-BE-04'`,
    );
    await data.query('update unit set removed_at = now() where position_id = $1 and removed_at is null', [
      id,
    ]);
    expect((await checks('GL-BE-04')).detail).toContain('nothing to check');
    await data.query('update unit set removed_at = null where position_id = $1', [id]);
    expect(ids(await checks('GL-BE-04'))).toEqual(['identified-unused']);
  });
});

describe('what was accepted', () => {
  it('is out of the counts until its day, and only with a reason', async () => {
    const identity = 'overload-over-plate';
    expect((await accept(BELT, identity, { reason: ' ' })).body.detail).toContain('Say why');
    expect((await accept(BELT, identity, { until: day(0) })).body.detail).toContain(
      'until a day from tomorrow',
    );
    expect((await accept(BELT, identity, { until: '2027-13-40' })).status).toBe(422);
    expect((await accept(BELT, identity, { until: '2027-02-31' })).status).toBe(422);
    expect((await accept(BELT, identity, {}, technician)).status).toBe(403);
    const before = (await viewer.get<RegisterPage>(`register?find=${BELT}&findings=open`)).body;
    expect([before.total, before.positions[0]?.findings]).toEqual([1, { stop: 1, look: 0 }]);
    const { status, body } = await accept(BELT, identity);
    expect([status, body.findings[0]?.accepted?.reason]).toEqual([200, 'Agreed with the shift']);
    expect((await viewer.get<RegisterPage>(`register?find=${BELT}&findings=open`)).body.total).toBe(0);
  });

  it('comes back when its values change, and says that it was accepted', async () => {
    const kept = await findingAt(BELT, 'overload-over-plate');
    expect(kept.accepted).not.toBeNull();
    // The plate of the library is corrected: another percentage, another finding.
    await data.query(
      `update motor set plate = jsonb_set(plate, '{ratings,0,current}', '1.05'), version = version + 1
        where id = (select motor_id from position where tag = $1)`,
      [BELT],
    );
    const changed = await findingAt(BELT, 'overload-over-plate');
    expect([changed.text, changed.accepted, changed.lapsed?.reason]).toEqual([
      'The overload level is 1.30 A, and the motor bears 1.05 A for ever: 124 %.',
      null,
      'Agreed with the shift',
    ]);
    const late = await engineer.post<Problem>(`positions/${BELT}/accepted-findings`, {
      ...{ identity: 'overload-over-plate', signature: kept.signature, reason: 'As before', until: day(9) },
    });
    expect([late.status, late.body.detail]).toEqual([409, expect.stringContaining('124 %')]);
  });

  it('comes back after its day, and is ended by hand', async () => {
    const fan = await findingAt('DR-CF-01', 'restart-maintained');
    expect([fan.accepted, fan.lapsed?.until]).toEqual([null, day(-3)]);
    const other = await findingAt('DR-CF-02', 'restart-maintained');
    const path = `positions/DR-CF-02/accepted-findings/${other.accepted?.id ?? ''}`;
    const ended = await Promise.all([engineer.ask('DELETE', path), engineer.ask('DELETE', path)]);
    expect(ended.map(({ status }) => status).sort()).toEqual([200, 409]);
    expect((await findingAt('DR-CF-02', 'restart-maintained')).accepted).toBeNull();
  });

  it('is one acceptance when two people accept at once', async () => {
    const both = await Promise.all([
      accept('DR-CF-02', 'restart-maintained', { reason: 'first of two' }),
      accept('DR-CF-02', 'restart-maintained', { reason: 'second of two' }),
    ]);
    expect(both.map(({ status }) => status)).toEqual([200, 200]);
    const open: unknown[] = await data.query(
      `select 1 from finding_acceptance a join position p on p.id = a.position_id
        where p.tag = 'DR-CF-02' and a.identity = 'restart-maintained' and a.ended_at is null`,
    );
    expect(open).toHaveLength(1);
  });

  it('is one acceptance, and one line of the logbook, when one person clicks twice', async () => {
    const twice = { reason: 'clicked twice' };
    const first = accept('DR-CF-03', 'restart-maintained', twice);
    const both = await Promise.all([first, accept('DR-CF-03', 'restart-maintained', twice)]);
    expect(both.map(({ status }) => status)).toEqual([200, 200]);
    const lines: unknown[] = await data.query(
      `select 1 from logbook where action = 'finding-accepted' and text like '%clicked twice%'`,
    );
    expect(lines).toHaveLength(1);
  });
});

describe('looking again', () => {
  it('looks at what has changed and at nothing else', async () => {
    const service = plant.app.get(Checks);
    await service.lookAgain();
    expect(await service.lookAgain()).toBe(0);
    // A warmer cabinet is a change of every position in it; nobody else is looked at.
    const [{ count } = { count: 0 }]: { count: number }[] = await data.query(
      `with hot as (update cabinet set ambient = 60 where id = (select cabinet_id from position where tag = $1) returning id)
       select count(*)::int from position p where p.cabinet_id = (select id from hot) and p.retired_at is null`,
      [BELT],
    );
    expect(await service.lookAgain()).toBe(count);
    const found = await findingAt(BELT, 'overload-over-plate');
    expect(found.since).toBeNull();
  });

  it('gives a new finding its time, keeps that of a known one, and waits openly meanwhile', async () => {
    const site = (await engineer.get<PositionSiteView>(`positions/${BELT}/site`)).body;
    const { id, name, nominalVolts, frequency, version } = site.supply ?? fail('no supply');
    const wish = { name, nominalVolts, frequency, version };
    const odd = await engineer.ask<Problem>('PUT', `site/supplies/${id}`, {
      ...wish,
      residualMilliamps: 'few',
    });
    expect(odd.status).toBe(400);
    expect(
      (await engineer.ask('PUT', `site/supplies/${id}`, { ...wish, residualMilliamps: 30 })).status,
    ).toBe(200);
    const before = Date.now() - 1000;
    await plant.app.get(Checks).lookAgain();
    const fresh = await findingAt('GL-BE-04', 'residual-filter');
    expect(new Date(fresh.since ?? 0).getTime()).toBeGreaterThan(before);
    await data.query(`update supply set residual_milliamps = 29 where residual_milliamps = 30`);
    expect((await findingAt('GL-BE-04', 'residual-filter')).since).toBe(fresh.since);
    const asked = `findings?since=${new Date(before).toISOString()}`;
    const { body } = await viewer.get<PlantFindingsView>(asked);
    const { waiting, checked, unknown, findings, fresh: all, open } = body;
    expect(all).toBe(findings.length);
    expect(waiting).toBe(0);
    expect(findings.map(({ tag }) => tag)).toContain('GL-BE-04');
    const seen = findings.filter(({ tag }) => tag === 'GL-BE-04').map(({ identity }) => identity);
    expect(seen).toContain('residual-filter');
    expect(seen).not.toContain('identified-unused');
    expect(open).toBeGreaterThan(findings.length);
    expect((await viewer.get('findings?since=yesterday')).status).toBe(400);
    expect(checked + unknown).toBe(42);
  });

  it('says what was found in the words of that time, whatever the program can say now', async () => {
    await plant.app.get(Checks).lookAgain();
    await data.query(
      `update check_finding set check_id = 'of-an-older-program', text = 'In older words.' where identity = $1`,
      ['overload-over-plate'],
    );
    expect((await findingAt(BELT, 'overload-over-plate')).text).toBe('In older words.');
    await data.query(
      `delete from check_run where position_id = (select id from position where tag = '${BELT}')`,
    );
    await plant.app.get(Checks).lookAgain();
  });

  it('checks all others when one cannot be checked, and goes on with it as soon as it can', async () => {
    await data.query(
      `delete from check_run where position_id in (select id from position where tag in ('DR-CH-01', 'GL-DI-01'))`,
    );
    const grounds = plant.app.get(CheckGrounds);
    const gather = grounds.gather.bind(grounds);
    const broken = jest.spyOn(grounds, 'gather').mockImplementation((row, ...rest) => {
      if (row.tag === 'DR-CH-01') throw new TypeError('nobody thought of this');
      return gather(row, ...rest);
    });
    expect(await plant.app.get(Checks).lookAgain()).toBe(1);
    expect((await viewer.get<PlantFindingsView>('findings')).body.waiting).toBe(1);
    broken.mockRestore();
    expect(await plant.app.get(Checks).lookAgain()).toBe(1);
  });

  it('leaves a damaged content aside, checks all others, and says nothing good of it', async () => {
    const [{ hash } = { hash: '' }]: { hash: string }[] = await data.query(
      `select b.content_hash as hash from last_look l join backup b on b.id = l.backup_id
         join position p on p.id = l.position_id where p.tag = 'DR-CH-01'`,
    );
    await plant.app.get(Checks).lookAgain();
    await data.query('alter table set_content disable trigger user');
    await data.query(`update set_content set content = '\\x00' where hash = $1`, [hash]);
    // Found by the look that keeps the register true.
    await plant.app.get(ContentStore).check([hash]);
    await data.query(
      `delete from check_run where position_id = (select id from position where tag = 'DR-CH-01')`,
    );
    await data.query(
      `delete from check_run where position_id = (select id from position where tag = 'GL-DI-01')`,
    );
    expect(await plant.app.get(Checks).lookAgain()).toBe(1);
    const view = await viewer.get<Problem>('positions/DR-CH-01/checks');
    expect(view.status).toBeGreaterThanOrEqual(400);
    expect((await viewer.get<PlantFindingsView>('findings')).body.waiting).toBe(1);
    const row = (await viewer.get<RegisterPage>('register?find=DR-CH-01')).body.positions[0];
    expect(row?.findings).toBeNull();
  });
});

function fail(why: string): never {
  throw new Error(why);
}
