import { afterAll, beforeAll, describe, expect, it } from '@jest/globals';
import type { IntegrityReport, Problem, TraceListing, TraceView } from '@drive-keep/api';
import { gapsIn, rampsIn, stepFigures, unpackTrace, valuesOf, type Trace } from '@drive-keep/core/signals';
import { DataSource } from 'typeorm';
import { RunningPlant, until, type Caller } from '../testing/running-plant.ts';
import { Traces } from './traces.service.ts';

const TAG = 'KL1-RD-03';

let plant: RunningPlant;
let technician: Caller;
let viewer: Caller;

beforeAll(async () => {
  plant = await RunningPlant.start();
  technician = await plant.signIn('technician');
  viewer = await plant.signIn('viewer');
});
afterAll(() => plant.stop());

const settle = (ms: number) => new Promise((resolve) => setTimeout(resolve, ms));
const SIGNALS = ['frequency', 'setpoint', 'current', 'torque', 'speed', 'busVoltage'];

async function begin(seconds: number, more: object = {}): Promise<TraceView & Problem> {
  const wish = { title: 'Ramps of the section', signals: SIGNALS, seconds, ...more };
  return (await technician.post<TraceView & Problem>(`positions/${TAG}/traces`, wish)).body;
}
const viewOf = async (id: string) => (await viewer.get<TraceView>(`traces/${id}`)).body;
const ended = (id: string) =>
  until(async () => {
    const view = await viewOf(id);
    return view.state === 'kept' ? view : undefined;
  });
async function samplesOf({ id, signals }: Pick<TraceView, 'id' | 'signals'>): Promise<Trace> {
  const bytes = new Uint8Array(await (await viewer.raw(`traces/${id}/samples`)).arrayBuffer());
  const read = unpackTrace(signals, bytes);
  if (!read.ok) throw new Error('damaged');
  return read.value;
}

describe('a trace', () => {
  it('keeps six signals twenty times a second, what the unit was set to, and what happened', async () => {
    const unit = plant.unit(TAG);
    await until(() => (unit.seen.frequency === 34.5 ? true : undefined));
    const { id } = await begin(30);
    await settle(1200);
    unit.runContact = false;
    await until(() => (unit.running ? undefined : true));
    await settle(1000);
    unit.runContact = true;
    await until(() => (unit.seen.frequency === 34.5 ? true : undefined));
    await settle(1200);
    const { body } = await technician.post<TraceView>(`traces/${id}/stop`);
    expect(body.id).toBe(id);
    const view = await ended(id);
    const trace = await samplesOf(view);
    const seconds = (trace.times.at(-1) ?? 0) / 1000;
    expect(trace.times.length / seconds).toBeGreaterThan(14);
    expect(view).toMatchObject({
      samples: trace.times.length,
      endedWhy: 'Stopped by hand.',
      beganBy: 'T. Pellow',
    });
    expect(view.markers.map(({ text }) => text)).toEqual(['Stands', 'Starts']);
    const { rampUp, rampDown, top, roundUp, roundDown } = view.settings;
    expect([rampUp, top]).toEqual([unit.memory.value('ramp.up'), 50]);
    const frequency = valuesOf(trace, 0).flatMap((value, at) =>
      value === null ? [] : [{ at: (trace.times[at] ?? 0) / 1000, value }],
    );
    const ramps = rampsIn(frequency, { up: rampUp, down: rampDown, top: top ?? 50, roundUp, roundDown });
    expect(ramps.map(({ way }) => way)).toEqual(['down', 'up']);
    for (const { share } of ramps) expect(Math.abs((share ?? 0) - 1)).toBeLessThan(0.02);
  }, 90_000);

  it('of the demo plant shows a loop that swung before it was tuned, and did not after', async () => {
    const { body } = await viewer.get<readonly TraceListing[]>('positions/KL1-FD-01/traces');
    const [after, before] = await Promise.all(
      body.map(async (listing) => {
        const trace = await samplesOf(listing);
        const of = (meaning: string) => {
          const index = trace.signals.findIndex((each) => each.meaning === meaning);
          return valuesOf(trace, index).map((value, at) => ({
            at: (trace.times[at] ?? 0) / 1000,
            value: value ?? 0,
          }));
        };
        const told = stepFigures(of('loopActual'), of('loopSetpoint'));
        return told.ok ? told.figures : undefined;
      }),
    );
    // exp(−ζπ/√(1−ζ²)): 54 % at a damping of 0.19, 4 % at 0.72.
    expect(Math.abs((before?.overshoot ?? 0) - 54)).toBeLessThan(6);
    expect(after?.overshoot ?? 100).toBeLessThan(12);
    expect([before?.sense, after?.sense]).toEqual(['right', 'right']);
  });

  it('has a gap where the unit fell silent, and says so', async () => {
    const unit = plant.unit(TAG);
    const { id } = await begin(60, { signals: ['frequency'] });
    await settle(1000);
    unit.powerCycle();
    await settle(6500);
    await technician.post(`traces/${id}/stop`);
    const view = await ended(id);
    const trace = await samplesOf(view);
    expect(gapsIn(trace.times).length).toBeGreaterThan(0);
    expect(view.markers.map(({ text }) => text).join(' ')).toMatch(
      /(did not answer|not answered yet).* Answers again/,
    );
  }, 60_000);

  it('is two for two people at one unit, each with its own end, from one reader', async () => {
    const [one, other] = await Promise.all([begin(3), begin(3, { signals: ['current'] })]);
    const [a, b] = await Promise.all([ended(one.id), ended(other.id)]);
    expect([a.signals.length, b.signals.length]).toEqual([6, 1]);
    expect(b.samples).toBeGreaterThan(30);
    expect(a.endedWhy).toBe('');
    const list = await viewer.get<readonly TraceListing[]>(`positions/${TAG}/traces`);
    expect(list.body.map(({ id }) => id)).toEqual(expect.arrayContaining([one.id, other.id]));
  }, 60_000);

  it('is one where somebody clicks twice, and ends by itself although its unit is silent', async () => {
    const unit = plant.unit(TAG);
    const [one, other] = await Promise.all([begin(3, { title: 'Twice' }), begin(3, { title: 'Twice' })]);
    expect(one.id).toBe(other.id);
    unit.switchSupply(false);
    const view = await ended(one.id);
    unit.switchSupply(true);
    unit.runContact = true;
    await settle(3000);
    expect(Date.parse(view.endedAt ?? '') - Date.parse(view.beganAt)).toBeLessThan(3_001);
    const trace = await samplesOf(view);
    // What came again, or too late, is not kept twice.
    const traces = plant.app.get(Traces);
    expect(await traces.addPiece(one.id, 99, trace, [])).toEqual({ stop: true });
    expect(await samplesOf(view)).toEqual(trace);
  }, 60_000);

  it('goes out as a table and comes in again as the same; a file with faults is told by line and kept nowhere', async () => {
    const { id } = await begin(2, { signals: ['frequency', 'current'] });
    const view = await ended(id);
    const csv = await (await viewer.raw(`traces/${id}/file?format=csv`)).text();
    const bring = (text: string, name = 'again.csv') => {
      const form = new FormData();
      form.set('file', new Blob([text]), name);
      return technician.post<TraceView & Problem>(`positions/${TAG}/traces/file`, form);
    };
    const { status, body } = await bring(csv);
    expect([status, body.serial, body.endedWhy]).toEqual([201, null, 'Brought as a file.']);
    expect(await samplesOf(body)).toEqual(await samplesOf(view));
    const before = (await viewer.get<readonly TraceListing[]>(`positions/${TAG}/traces`)).body.length;
    const [head = '', first = ''] = csv.split('\r\n');
    for (const [text, wanted] of [
      [csv.replace('time s', 'seconds'), /Line 1.*time s/],
      [`time s,colour\r\n0.000,3`, /frequency hz/],
      [`${head}\r\n${first}\r\n${first}`, /Line 3.*each more than the line before/],
      [`${head}\r\n0.000,"12,5",1.00`, /Line 2.*a number with a point/],
      [head, /1 to 20000 rows/],
      ['', /empty/i],
    ] as const) {
      const refused = await bring(text);
      expect([refused.status, `${refused.body.detail} ${(refused.body.findings ?? []).join(' ')}`]).toEqual([
        422,
        expect.stringMatching(wanted),
      ]);
    }
    expect((await viewer.get<readonly TraceListing[]>(`positions/${TAG}/traces`)).body).toHaveLength(before);
  }, 60_000);

  it('of a signal that the model does not have, of none or of a position without a line is refused', async () => {
    const refused = async (tag: string, signals: readonly string[]) => {
      const { status, body } = await technician.post<Problem>(`positions/${tag}/traces`, {
        title: 'x',
        signals,
        seconds: 5,
      });
      return [status, body.detail] as const;
    };
    expect(await refused(TAG, ['position'])).toEqual([
      422,
      expect.stringContaining('does not show position'),
    ]);
    expect((await refused(TAG, []))[0]).toBe(400);
    expect(await refused('GL-BE-02', ['frequency'])).toEqual([422, expect.stringContaining('has no line')]);
    expect(
      (await viewer.post<Problem>(`positions/${TAG}/traces`, { title: 'x', signals: ['speed'], seconds: 5 }))
        .status,
    ).toBe(403);
  });

  it('that was recorded by a server that has ended is kept with what had come in', async () => {
    const traces = plant.app.get(Traces);
    const whole = await ended((await begin(2, { signals: ['frequency'] })).id);
    const [row]: Record<string, string>[] = await plant.app
      .get(DataSource)
      .query('select position_id, dictionary_id from trace where id = $1', [whole.id]);
    // As another server leaves it that was killed after its first piece, half a minute ago.
    const { id } = await traces.begin({
      ...{ positionId: row?.['position_id'] ?? '', dictionaryId: row?.['dictionary_id'] ?? '', serial: '1' },
      ...{ title: 'Cut', signals: whole.signals, everyMs: 50, seconds: 60, settings: whole.settings },
      ...{ beganAt: new Date(Date.now() - 40_000), beganBy: 'T. Pellow' },
    });
    const piece = await samplesOf(whole);
    await traces.addPiece(id, 0, piece, [{ at: 10, text: 'Starts' }]);
    const age = `update trace set last_piece_at = now() - interval '30 seconds' where id = $1`;
    await plant.app.get(DataSource).query(age, [id]);
    await viewer.get(`positions/${TAG}/traces`);
    const view = await viewOf(id);
    expect(view).toMatchObject({ state: 'kept', markers: [{ at: 10, text: 'Starts' }] });
    expect(view.endedWhy).toContain('The server ended');
    expect(await samplesOf(view)).toEqual(piece);
  }, 60_000);

  it('that is kept is changed by nobody, and a damaged one is not shown', async () => {
    const { id } = await begin(2, { signals: ['frequency'] });
    await ended(id);
    const database = plant.app.get(DataSource);
    await expect(database.query(`update trace set title = 'x' where id = $1`, [id])).rejects.toThrow(
      'keeps what it holds',
    );
    await expect(database.query('delete from trace where id = $1', [id])).rejects.toThrow();
    const engineer = await plant.signIn('engineer');
    const clean = await engineer.post<IntegrityReport>('integrity');
    expect(clean.body.findings).toEqual([]);
    await database.query('alter table trace disable trigger recorded');
    await database.query(`update trace set serial = 1 where id = $1`, [id]);
    await database.query('alter table trace enable trigger recorded');
    const { status, body } = await viewer.get<Problem>(`traces/${id}/samples`);
    expect([status, body.detail]).toEqual([500, expect.stringContaining('damaged')]);
    const { body: report } = await engineer.post<IntegrityReport>('integrity');
    const found = report.findings.map(({ text }) => text).join(' ');
    expect(found).toContain(`The trace ${id} was changed after it was kept.`);
    expect(found).toMatch(/The trace “.*” of KL1-RD-03 is damaged/);
    // That of no other trace: all of them stand in the chain from the moment in which they were kept.
    expect(report.findings.filter(({ what }) => what === 'trace')).toHaveLength(2);
  }, 60_000);
});
