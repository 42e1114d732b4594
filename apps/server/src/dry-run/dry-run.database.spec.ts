import { afterAll, beforeAll, describe, expect, it } from '@jest/globals';
import type {
  DryRunSetView,
  DryRunView,
  DryRunWiringView,
  FinishedDecisions,
  Problem,
  VocabularyView,
  WritePlanView,
} from '@drive-keep/api';
import { RunningPlant, type Caller } from '../testing/running-plant.ts';

let plant: RunningPlant;
let technician: Caller;
let viewer: Caller;
beforeAll(async () => {
  plant = await RunningPlant.start();
  [technician, viewer] = await Promise.all([plant.signIn('technician'), plant.signIn('viewer')]);
});
afterAll(() => plant.stop());

const TAG = 'KL1-RD-07';
const run = async (set = '', tag = TAG) =>
  (await viewer.get<DryRunView & Problem>(`positions/${tag}/dry-run${set === '' ? '' : `?set=${set}`}`)).body;
const value = ({ readings }: DryRunView, code: string) => readings.find(([each]) => each === code)?.[1];

describe('what a dry run needs', () => {
  it('is a set of the position with its newest wiring, and the words of all models', async () => {
    const [newest, baseline, defaults] = await Promise.all([run(), run('baseline'), run('default')]);
    expect([newest, baseline, defaults].map((view) => value(view, '01R'))).toEqual([2000, 800, 1000]);
    expect(newest).toMatchObject({ tag: TAG, rating: 'HN64-15', region: '50-hz', wiringRevision: 1 });
    expect([newest, baseline, defaults].map(({ at }) => at === null)).toEqual([false, false, true]);
    expect(newest.wiring.flat()).toContain('S2');
    const { body } = await viewer.get<VocabularyView>('meanings');
    expect(body.entries.length).toBeGreaterThan(300);
    expect(body.functions.map(({ id }) => id)).toContain('run.forward');
  });

  it('is the draft that waits for its signature, while it waits', async () => {
    expect((await run('draft')).status).toBe(404);
    const decision = { codes: ['01R'], kind: 'take-in', reason: 'The longer ramp stays' };
    await technician.ask('PUT', `positions/${TAG}/decisions`, decision);
    await technician.post<FinishedDecisions>(`positions/${TAG}/decisions/finish`);
    const draft = await run('draft');
    expect([value(draft, '01R'), value(draft, '12C')]).toEqual([2000, 1200]);
  });

  it('is a write plan before and after, of its own position', async () => {
    const { body } = await technician.post<WritePlanView>(`positions/${TAG}/write-plans`, {
      ...{ target: 'baseline', codes: ['12C'] },
    });
    const sides = await Promise.all([run(`plan-before:${body.id}`), run(`plan:${body.id}`)]);
    expect(sides.map((view) => value(view, '12C'))).toEqual([900, 1200]);
    expect((await run(`plan:${body.id}`, 'KL1-RD-01')).status).toBe(404);
  });

  it('is refused by its name where there is no such set', async () => {
    expect((await run('nonsense')).status).toBe(400);
    expect((await run('plan:nonsense')).status).toBe(404);
    expect((await run('', 'NO-SUCH')).status).toBe(404);
  });
});

describe('files for a model without a drive', () => {
  const HN64 = 'dictionaries/halvern-hn64@1/dry-run';
  const form = (content: string, fields: Readonly<Record<string, string>> = {}): FormData => {
    const made = new FormData();
    for (const [key, value] of Object.entries(fields)) made.set(key, value);
    made.set('file', new Blob([content]), 'belt.csv');
    return made;
  };
  const outfit = { rating: 'HN64-15', region: '50-hz' };

  it('are read as a set of it, and nothing is kept', async () => {
    const before = (await viewer.get<unknown[]>('jobs?which=recent')).body.length;
    const { body } = await technician.post<DryRunSetView>(
      `${HN64}/set`,
      form('code,value\n01R,8.5\n', outfit),
    );
    expect(body).toMatchObject({ title: 'belt.csv', acceptable: true, readings: [['01R', 850]] });
    expect((await viewer.get<unknown[]>('jobs?which=recent')).body).toHaveLength(before);
  });

  it('tell nothing of a set with half a value, and refuse a rating that it has not', async () => {
    const half = await technician.post<DryRunSetView>(`${HN64}/set`, form('code,value\n01R,8,5\n', outfit));
    expect([half.body.acceptable, half.body.readings]).toEqual([false, []]);
    const other = await technician.post<Problem>(
      `${HN64}/set`,
      form('code,value\n', { ...outfit, rating: 'HN64-0' }),
    );
    expect([other.status, other.body.detail]).toEqual([422, expect.stringContaining('no rating HN64-0')]);
    expect((await technician.post<Problem>(`${HN64}/set`, form('x'))).status).toBe(400);
  });

  it('are read as a wiring against its chart', async () => {
    const { body } = await technician.post<DryRunWiringView>(
      `${HN64}/wiring`,
      form('row,name,colour,from,to,facts,what\nlink,,,30,31,drive,\nlink,,,32,77,drive,\n'),
    );
    expect(body.rows).toContainEqual(['link', '', '', '30', '31', 'drive', '']);
    expect(body.findings.map(({ text }) => text).join(' ')).toContain('77');
    expect((await technician.post('dictionaries/no-such@1/dry-run/wiring', form('x'))).status).toBe(404);
  });
});
