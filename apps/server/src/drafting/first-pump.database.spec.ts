// A pump from its box to the pressure that it holds: drafted, wired, written over the line, run by its contact, and traced.

import { afterAll, beforeAll, describe, expect, it } from '@jest/globals';
import type { DraftRecord, Problem, SettingsDraftView, TraceView, WritePlanView } from '@drive-keep/api';
import { unpackTrace, valuesOf } from '@drive-keep/core/signals';
import { plainWiring } from '@drive-keep/core/wiring';
import { RunningPlant, until, type Caller } from '../testing/running-plant.ts';

const TAG = 'GL-PU-01';
const SERIAL = 7_330_411;
const PUMP = { dictionary: 'toreka-f3@1', rating: 'F3-15', serial: SERIAL };
const TYPED: Readonly<Record<string, string>> = {
  ...{ 'plate.power': '1.5', 'plate.voltage': '400', 'plate.current': '3.6', 'plate.frequency': '50' },
  ...{ 'plate.speed': '1420', 'plate.powerFactor': '0.79', 'supply.volts': '400', 'supply.hertz': '50' },
  ...{ 'ask.range.high': '6', 'ask.setpoint': '2.4', 'ask.process.full': '5', 'ask.process.rest': '0.3' },
  ...{ 'ask.process.lag': '0.8', 'ask.process.dead': '0.15', 'ask.ramp.up': '3', 'ask.ramp.down': '3' },
};
/** In percent of the transmitter's range. */
const WANTED = 40;

let plant: RunningPlant;
let technician: Caller;

beforeAll(async () => {
  plant = await RunningPlant.start();
  technician = await plant.signIn('technician');
});
afterAll(() => plant.stop());

describe('a pump that comes out of its box', () => {
  it('is wired and written by its draft, and its loop holds the pressure', async () => {
    const begun = await technician.post<SettingsDraftView & Problem>('drafts', {
      ...{ name: 'New pump', dictionary: PUMP.dictionary, region: '50-hz', rating: null, tag: TAG },
      begins: { kind: 'point', id: 'pump-pressure' },
    });
    const { id } = begun.body;
    const fields = Object.entries(TYPED).map(([key, text]) => ({ key, text, why: '', seen: null }));
    await technician.ask('PUT', `drafts/${id}/fields`, { fields });
    const use = (kind: string) =>
      technician.post<SettingsDraftView & Problem>(`drafts/${id}/uses`, {
        kind,
        tag: TAG,
        why: 'the new pump',
      });
    expect((await use('write-plan')).body.detail).toMatch(/a C7, version 1, sits at GL-PU-01/);

    // The unit comes in: in the register, and its wires as the draft has them.
    const swap = {
      ...PUMP,
      region: '50-hz',
      firmware: '3.05',
      reason: 'Pump of the new line',
      line: 'gateway-3',
      lineAddress: 26,
    };
    expect((await technician.post<Problem>(`positions/${TAG}/swap`, swap)).status).toBe(200);
    const wired = await use('wiring');
    const revision = wired.body.revisions[0]?.id ?? '';
    const { sheet } = (await technician.get<DraftRecord>(`draft-revisions/${revision}`)).body;
    const unit = plant.replaceUnit(TAG, {
      ...{ ...PUMP, firmware: 305 },
      floor: { ...plainWiring(sheet.wiring), logic: 'sourcing' },
      load: {
        ...{ kind: 'pump', torque: 0.72, inertiaSeconds: 0.15 },
        process: {
          transmitter: 'B7',
          rest: 0.05,
          full: 0.85,
          square: true,
          lagSeconds: 0.8,
          deadSeconds: 0.15,
          noise: 0.003,
        },
      },
    });
    expect((await plant.backUp(technician, TAG)).items[0]?.outcome).toBe('kept');

    const made = await use('write-plan');
    expect([made.status, made.body.detail]).toEqual([201, undefined]);
    const plan = made.body.uses.find(({ kind }) => kind === 'write-plan')?.madeId ?? '';
    expect(
      (await technician.post<WritePlanView>(`write-plans/${plan}/release`, { stoppedAndSafe: true })).status,
    ).toBe(200);
    await technician.post(`write-plans/${plan}/carry-out`, {});
    expect(await plant.planEnd(technician, plan)).toMatchObject({ state: 'done', saved: true });

    // As delivered it had tripped at an input on which nothing hangs: somebody takes the supply away once.
    unit.powerCycle();
    await until(() => (unit.supplied && unit.wired?.report.fault === null ? true : undefined));
    // Somebody closes the run contact, and the pressure comes up to what it shall be.
    const wish = { title: 'First run of the loop', signals: ['frequency', 'loopActual'], seconds: 14 };
    const trace = await until(async () => {
      const answer = await technician.post<TraceView & Problem>(`positions/${TAG}/traces`, wish);
      return answer.status === 201 ? answer : undefined;
    });
    unit.wired?.work('S1', 1);
    const kept = await until(async () => {
      const { body } = await technician.get<TraceView>(`traces/${trace.body.id}`);
      return body.state === 'kept' ? body : undefined;
    });
    const bytes = new Uint8Array(await (await technician.raw(`traces/${kept.id}/samples`)).arrayBuffer());
    const read = unpackTrace(kept.signals, bytes);
    if (!read.ok) throw new Error('damaged');
    const at = kept.signals.findIndex((signal) => /actual/i.test(JSON.stringify(signal)));
    const course = valuesOf(read.value, at).filter((each): each is number => each !== null);
    const last = course.slice(-Math.floor(course.length / 4));
    const mean = last.reduce((sum, each) => sum + each, 0) / last.length;
    const wanted = Math.max(...course) > 10 ? WANTED : (WANTED / 100) * 6;
    expect(Math.abs(mean - wanted) / wanted).toBeLessThan(0.02);
    expect(Math.max(...course)).toBeLessThan(wanted * 1.25);
    unit.wired?.work('S1', 0);
  }, 120_000);
});
