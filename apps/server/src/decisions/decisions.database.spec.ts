import { afterAll, beforeAll, describe, expect, it } from '@jest/globals';
import type {
  ComparisonView,
  DecisionsView,
  DraftView,
  FinishedDecisions,
  HistoryView,
  PositionDetailView,
  Problem,
  WritePlanView,
} from '@drive-keep/api';
import { DataSource } from 'typeorm';
import { RunningPlant, type Caller } from '../testing/running-plant.ts';
import { dayOf } from '../tolerations/tolerations.service.ts';

let plant: RunningPlant;
let engineer: Caller;
let technician: Caller;
let viewer: Caller;

beforeAll(async () => {
  plant = await RunningPlant.start();
  [engineer, technician, viewer] = await Promise.all([
    plant.signIn('engineer'),
    plant.signIn('technician'),
    plant.signIn('viewer'),
  ]);
});
afterAll(() => plant.stop());

const FAN = 'KL1-CA-01';
const PUMP = 'GL-PU-01';
const day = (inDays: number) => dayOf(new Date(Date.now() + inDays * 86_400_000));

const decide = (tag: string, wish: object, by: Caller = technician) =>
  by.ask<DecisionsView & Problem>('PUT', `positions/${tag}/decisions`, wish);
const view = async (tag: string, by: Caller = technician) =>
  (await by.get<DecisionsView>(`positions/${tag}/decisions`)).body;
const finish = (tag: string, by: Caller = technician) =>
  by.post<FinishedDecisions & Problem>(`positions/${tag}/decisions/finish`);
const position = async (tag: string) => (await technician.get<PositionDetailView>(`positions/${tag}`)).body;
const drifting = async (tag: string) =>
  (await technician.get<ComparisonView>(`positions/${tag}/comparison`)).body.rows.map(({ code }) => code);

describe('a decision', () => {
  it('needs a reason where it stands for long, an end where it tolerates, and a difference to be about', async () => {
    const detail = async (wish: object) => (await decide(FAN, { codes: ['FM04'], ...wish })).body.detail;
    expect(await detail({ kind: 'take-in' })).toContain('Say why');
    expect(await detail({ kind: 'tolerate', reason: 'for now', until: day(0) })).toContain('ends on a day');
    expect(await detail({ kind: 'tolerate', reason: 'for now', until: day(400) })).toContain('ends on a day');
    expect(await detail({ kind: 'tolerate', reason: 'for now' })).toContain('ends on a day');
    expect(await detail({ kind: 'tolerate', reason: 'for now', until: '2027-02-31' })).toContain(
      'ends on a day',
    );
    expect(await detail({ kind: 'put-back', codes: ['FM01'] })).toContain('FM01 does not differ');
    expect((await decide(FAN, { codes: ['FM04'], kind: 'put-back' }, viewer)).status).toBe(403);
    expect((await view(FAN)).open).toEqual([]);
  });

  it('is kept for the person who made it, can be changed and taken back, and happens only when finished', async () => {
    await decide(FAN, { codes: ['FM04', 'FL01'], kind: 'put-back' });
    await decide(FAN, { codes: ['FL01'], kind: 'later' });
    const open = (await view(FAN)).open.map(({ code, kind }) => `${code} ${kind}`);
    expect(open).toEqual(['FL01 later', 'FM04 put-back']);
    expect((await view(FAN, engineer)).open).toEqual([]);
    await technician.post(`positions/${FAN}/decisions/withdraw`, { codes: ['FL01'] });
    expect((await view(FAN)).open.map(({ code }) => code)).toEqual(['FM04']);
    expect((await position(FAN)).tolerated).toBe(0);
  });

  it('leads to one write plan for all that goes back', async () => {
    await decide(FAN, { codes: ['FL01', 'FL02'], kind: 'put-back' });
    const { body } = await finish(FAN);
    const plan = (await technician.get<WritePlanView>(`write-plans/${body.writePlanId ?? ''}`)).body;
    expect(plan.steps.map(({ code }) => code).sort()).toEqual(['FL01', 'FL02', 'FM04']);
    expect([body.draftId, (await view(FAN)).open]).toEqual([null, []]);
    expect((await finish(FAN)).body.detail).toBe(
      'Nothing has been decided yet, or it has been finished already.',
    );
  });

  it('that is finished by several clicks at once is one plan, and nobody is told of a fault', async () => {
    const plans = async () =>
      (await technician.get<readonly WritePlanView[]>(`positions/${FAN}/write-plans`)).body.length;
    const before = await plans();
    await decide(FAN, { codes: ['FM04', 'FL01'], kind: 'put-back' });
    const clicks = await Promise.all([finish(FAN), finish(FAN), finish(FAN), finish(FAN)]);
    // Who comes while the first is at work is told so; who comes after it, that nothing is left to finish.
    const [done, ...others] = [...clicks].sort((one, other) => one.status - other.status);
    expect(done?.status).toBe(200);
    for (const { status, body } of others)
      if (status === 422) expect(JSON.stringify(body)).toContain('it has been finished already');
      else expect(status).toBe(409);
    expect(await plans()).toBe(before + 1);
    expect((await view(FAN)).open).toEqual([]);
  });

  it('about a value that has changed since is not finished, and the others are kept', async () => {
    await decide(FAN, { codes: ['FM04', 'FL06'], kind: 'put-back' });
    plant.unit(FAN).memory.force('FM04', 550);
    await plant.backUp(technician, FAN);
    const { status, body } = await finish(FAN);
    expect([status, body.detail]).toEqual([409, expect.stringContaining('FM04 changed after you decided')]);
    expect((await view(FAN)).open).toHaveLength(2);
    await technician.post(`positions/${FAN}/decisions/withdraw`, { codes: ['FM04', 'FL06'] });
  });

  it('cannot lead to a write plan for a unit that has only a keypad', async () => {
    const plan = await technician.post<Problem>('positions/PR-PB-01/write-plans', {
      target: 'default',
      codes: ['2/01'],
    });
    expect([plan.status, plan.body.detail]).toEqual([422, expect.stringContaining('set at its keypad')]);
  });
});

describe('a toleration', () => {
  it('takes differences out of what has to be looked at, until its day is over', async () => {
    expect(await position('KL1-RD-07')).toMatchObject({ drift: 4, tolerated: 3 });
    const force = (await view('KL1-RD-07')).inForce;
    expect(force.map(({ kind, person }) => `${kind} ${person}`)).toEqual(
      Array(3).fill('tolerate R. Ashgrove'),
    );
    await plant.app
      .get(DataSource)
      .query(`update decision set until = current_date - 1 where code = $1 and state = 'in-force'`, [
        plant.code('stop.mode'),
      ]);
    expect(await position('KL1-RD-07')).toMatchObject({ drift: 4, tolerated: 2 });
  });

  it('says nothing about another value than the one that was tolerated', async () => {
    plant.unit('KL1-RD-07').memory.force(plant.code('ramp.up'), 2500);
    await plant.backUp(technician, 'KL1-RD-07');
    expect(await position('KL1-RD-07')).toMatchObject({ drift: 4, tolerated: 1 });
  });

  it('may be ended', async () => {
    const code = plant.code('preset.contact.3');
    const ended = await technician.ask<DecisionsView>('DELETE', `positions/KL1-RD-07/tolerations/${code}`);
    expect(ended.body.inForce).toEqual([]);
    const again = await technician.ask<Problem>('DELETE', `positions/KL1-RD-07/tolerations/${code}`);
    expect(again.status).toBe(422);
  });
});

describe('a baseline', () => {
  const draft = async (tag: string): Promise<DraftView> => {
    const { draft: waiting } = await view(tag);
    if (!waiting) throw new Error('no draft');
    return waiting;
  };

  it('is proposed by a decision and counts only when an engineer has signed it', async () => {
    await decide(PUMP, { codes: ['RA1'], kind: 'take-in', reason: 'Nozzles want the short ramp' });
    await finish(PUMP);
    await decide(PUMP, { codes: ['RB2'], kind: 'take-in', reason: 'Pump wheel changed' });
    await finish(PUMP);
    const waiting = await draft(PUMP);
    expect(waiting).toMatchObject({ revision: 3, codes: ['RA1', 'RB2'], madeBy: 'T. Pellow' });
    expect(waiting.reason).toBe('Nozzles want the short ramp; Pump wheel changed');
    expect(await drifting(PUMP)).toEqual(['RA1', 'RB2']);
    expect((await technician.post(`baseline-drafts/${waiting.id}/sign`)).status).toBe(403);
    expect((await engineer.post(`baseline-drafts/${waiting.id}/sign`, { wiring: 1 })).status).toBe(204);
    expect(await drifting(PUMP)).toEqual([]);
    const { baselines } = (await technician.get<HistoryView>(`positions/${PUMP}/history`)).body;
    expect(baselines.map(({ revision, signedBy }) => `${revision} ${signedBy}`)).toEqual([
      '1 R. Ashgrove',
      '2 R. Ashgrove',
      '3 R. Ashgrove',
    ]);
    expect((await engineer.post(`baseline-drafts/${waiting.id}/sign`)).status).toBe(404);
  });

  it('is not signed by the one who proposed it where the plant wants a second person', async () => {
    await plant.app.get(DataSource).query('update plant set second_signature = true');
    await decide(FAN, { codes: ['FL02'], kind: 'take-in', reason: 'Short enough' }, engineer);
    await finish(FAN, engineer);
    const waiting = await draft(FAN);
    const own = await engineer.post<Problem>(`baseline-drafts/${waiting.id}/sign`);
    expect([own.status, own.body.detail]).toEqual([409, expect.stringContaining('second person')]);
    expect(
      (await engineer.post(`baseline-drafts/${waiting.id}/refuse`, { reason: 'Not mine to sign' })).status,
    ).toBe(204);
    expect((await view(FAN)).draft).toBeNull();
    await plant.app.get(DataSource).query('update plant set second_signature = false');
  });

  it('of two people who finish at the same time holds what both proposed, and neither signs his own line', async () => {
    await plant.app.get(DataSource).query('update plant set second_signature = true');
    const [mine, theirs] = await drifting(FAN);
    if (!mine || !theirs) throw new Error('two differences are needed');
    const reason = 'Stands as it is';
    await decide(FAN, { codes: [mine], kind: 'take-in', reason }, engineer);
    await decide(FAN, { codes: [theirs], kind: 'take-in', reason }, technician);
    const both = await Promise.all([finish(FAN, engineer), finish(FAN, technician)]);
    expect(both.map(({ status }) => status)).toEqual([200, 200]);
    const waiting = await draft(FAN);
    expect([...waiting.codes].sort()).toEqual([mine, theirs].sort());
    // The line of the other one would be his to sign; the paper is signed as a whole.
    const own = await engineer.post<Problem>(`baseline-drafts/${waiting.id}/sign`);
    expect([own.status, own.body.detail]).toEqual([409, expect.stringContaining(`yourself (${mine})`)]);
    await engineer.post(`baseline-drafts/${waiting.id}/refuse`, { reason: 'Only tried' });
    await plant.app.get(DataSource).query('update plant set second_signature = false');
  });

  it('that rests on an older revision is not signed', async () => {
    await decide(FAN, { codes: ['FL02'], kind: 'take-in', reason: 'Short enough' });
    await finish(FAN);
    const waiting = await draft(FAN);
    await plant.app.get(DataSource).query(
      `insert into baseline (position_id, revision, content_hash, signed_at, signed_by, reason, dictionary_hash, signature)
       select position_id, revision + 1, content_hash, now(), 'Somebody', 'In between', dictionary_hash, ''
         from baseline b join position p on p.id = b.position_id where p.tag = $1 order by revision desc limit 1`,
      [FAN],
    );
    const late = await engineer.post<Problem>(`baseline-drafts/${waiting.id}/sign`);
    expect([late.status, late.body.detail]).toEqual([409, expect.stringContaining('signed in between')]);
  });
});
