import { describe, expect, it } from '@jest/globals';
import type { FaultKind } from '@drive-keep/core/dictionary';
import type { Surroundings } from './drive-train.ts';
import { loadTorque, Process, USUAL_LOAD, type LoadPlan } from './load.ts';
import { FloorUnit } from './testing/floor-unit.ts';

const HN64 = 'halvern-hn64@1';
const F3 = 'toreka-f3@1';
/** One speed, and ramps that a belt bears. */
const PLAIN = {
  ...{ 'preset.contact.1': 40, 'preset.1': 40, 'frequency.maximum': 50, 'frequency.minimum': 0 },
  ...{ 'ramp.up': 4, 'ramp.down': 4, 'stop.mode': 'ramp' },
};
const HEAVY: LoadPlan = { kind: 'belt', torque: 0.5, inertiaSeconds: 2 };

describe('the ramp of a simulated unit', () => {
  it.each([2, 5, 20])(
    'of %d s brings it to 40 of 50 Hz in four fifths of its time, up and down',
    (seconds) => {
      const unit = new FloorUnit(HN64, { ...PLAIN, 'ramp.up': seconds, 'ramp.down': seconds });
      unit.run(true);
      expect(unit.until(() => unit.see('monitor.frequency') >= 40) / (0.8 * seconds)).toBeCloseTo(1, 1);
      unit.wait(2);
      unit.run(false);
      expect(unit.until(() => unit.see('monitor.frequency') === 0) / (0.8 * seconds)).toBeCloseTo(1, 1);
      expect(unit.fault).toBeNull();
    },
  );

  it('is stretched where the current limit holds it, and the current stays at the limit meanwhile', () => {
    const unit = new FloorUnit(HN64, { ...PLAIN, 'ramp.up': 1.5, 'limit.current': 60 }, HEAVY);
    const limit = unit.unit.memory.value('limit.current') ?? 0;
    unit.run(true);
    unit.wait(1);
    const share = unit.see('monitor.current');
    const took = unit.until(() => unit.see('monitor.frequency') >= 40);
    expect(took).toBeGreaterThan(1.5);
    expect(unit.fault).toBeNull();
    expect(limit).toBe(60);
    const unitCurrent = Number(unit.unit.memory.fact('heavy'));
    expect(share / unitCurrent).toBeCloseTo(0.6, 1);
  });

  it('rounds its corners where it is told to, and takes longer by its rounding', () => {
    const rounded = { 'ramp.shape': 'rounded-by-times', 'ramp.roundUp': 1 };
    const unit = new FloorUnit(HN64, { ...PLAIN, ...rounded });
    unit.run(true);
    unit.wait(0.25);
    expect(unit.see('monitor.frequency')).toBeLessThan(1);
    expect(0.25 + unit.until(() => unit.see('monitor.frequency') >= 39.99)).toBeCloseTo(3.2 + 1, 0);
  });

  it('is not used by a unit that is told to coast: output off, and the wheel runs on', () => {
    const fan: LoadPlan = { kind: 'fan', torque: 0.6, inertiaSeconds: 8 };
    const unit = new FloorUnit(F3, { ...PLAIN, 'ramp.up': 15, 'stop.mode': 'coast' }, fan);
    unit.run(true);
    unit.wait(20);
    unit.run(false);
    unit.wait(0.1);
    expect([unit.see('monitor.frequency'), unit.see('monitor.current'), unit.unit.running]).toEqual([
      0,
      0,
      false,
    ]);
  });
});

describe('what a simulated unit watches', () => {
  const provoked = (
    id: string,
    settings: Readonly<Record<string, number | string>>,
    load: LoadPlan,
    how: Partial<Surroundings> = {},
    most = 200,
  ): readonly [FaultKind | null, number] => {
    const unit = new FloorUnit(id, { ...PLAIN, ...settings }, load);
    unit.run(true);
    unit.wait(8);
    unit.unit.disturb(how);
    const took = unit.until(() => unit.fault !== null, most);
    const history = unit.unit.memory.byMeaning.has('monitor.faultHistory.1');
    expect([unit.see('monitor.frequency'), history]).toEqual([0, true]);
    return [unit.fault, took];
  };

  it('trips on overcurrent when the ramp is too short for the inertia, whatever the limit says', () => {
    const unit = new FloorUnit(HN64, { ...PLAIN, 'ramp.up': 0.1 }, HEAVY);
    unit.run(true);
    unit.wait(0.3);
    expect(unit.fault).toBe('overcurrent');
  });

  it('trips on overvoltage when it stops too short without a resistor, and not where it may lengthen', () => {
    const stopped = (hold: string) => {
      const unit = new FloorUnit(HN64, { ...PLAIN, 'ramp.down': 1.1, 'limit.busVoltage': hold }, HEAVY);
      unit.run(true);
      unit.wait(8);
      unit.run(false);
      const bus: number[] = [];
      unit.until(() => bus.push(unit.see('monitor.busVoltage')) > 80, 4);
      return [
        unit.fault,
        Math.max(...bus) > 700,
        unit.until(() => unit.see('monitor.frequency') === 0),
      ] as const;
    };
    expect(stopped('off').slice(0, 2)).toEqual(['overvoltage', true]);
    const [fault, rose] = stopped('lengthen');
    expect([fault, rose]).toEqual([null, true]);
  });

  it('trips on motor overload after about a minute at one and a half times what the motor bears', () => {
    const load: LoadPlan = { kind: 'belt', torque: 1.6, inertiaSeconds: 0.3 };
    const settings = { 'limit.current': 200, 'ramp.up': 6, 'protect.overloadAction': 'fault' };
    const unit = new FloorUnit(F3, { ...PLAIN, ...settings, 'limit.current': 90 }, load);
    const rated = unit.unit.memory.value('motor.ratedCurrent') ?? 1;
    unit.set({ 'limit.current': rated * 3, 'protect.overloadCurrent': rated });
    unit.run(true);
    unit.wait(10);
    expect(unit.see('monitor.current') / rated).toBeCloseTo(1.5, 1);
    const took = 10 + unit.until(() => unit.fault !== null, 120);
    expect(['motorOverload', 'unitHot']).toContain(unit.fault);
    expect(took).toBeGreaterThan(40);
    expect(took).toBeLessThan(90);
  });

  it.each<[string, FaultKind, Partial<Surroundings>, Readonly<Record<string, string | number>>]>([
    ['a lost mains phase', 'inputPhase', { mainsPhaseLost: true }, { 'protect.inputPhase': 'fault' }],
    ['a lost motor phase', 'outputPhase', { motorPhaseLost: true }, { 'protect.outputPhase': 'fault' }],
    ['an earth fault', 'earth', { earthed: true }, {}],
    ['a dip of the mains', 'undervoltage', { dip: true }, { 'protect.undervoltage': 'fault' }],
    [
      'a torn belt',
      'underload',
      { uncoupled: true },
      { 'protect.underloadAction': 'fault', 'protect.underloadCurve': 30, 'protect.underloadTime': 3 },
    ],
    [
      'something stuck',
      'shaftOverload',
      { stuck: true },
      { 'protect.blockedAction': 'fault', 'protect.blocked': 120, 'protect.blockedTime': 2 },
    ],
  ])('trips on %s (%s) with the number that its manual gives', (_, kind, how, settings) => {
    const [fault, took] = provoked(
      F3,
      { ...settings, 'ramp.up': 5 },
      { ...USUAL_LOAD, torque: 0.8 },
      how,
      30,
    );
    expect(fault).toBe(kind);
    expect(took).toBeLessThan(10);
  });

  it('only warns where its setting says so', () => {
    const unit = new FloorUnit(F3, { ...PLAIN, 'protect.outputPhase': 'warn' });
    unit.run(true);
    unit.wait(6);
    unit.unit.disturb({ motorPhaseLost: true });
    unit.wait(5);
    expect([unit.fault, unit.see('monitor.frequency') > 0]).toEqual([null, true]);
  });
});

describe('what hangs on the shaft', () => {
  it.each([0.2, 0.5, 0.8])('is a fan that asks for torque with the square of its speed, at %d', (speed) => {
    const fan: LoadPlan = { kind: 'fan', torque: 0.9, inertiaSeconds: 5 };
    expect((loadTorque(fan, speed) - 0.05) / (loadTorque(fan, 1) - 0.05)).toBeCloseTo(speed ** 2, 10);
    expect(loadTorque(fan, -speed)).toBeCloseTo(-loadTorque(fan, speed), 10);
  });

  it('is a hoist whose weight pulls the same way up and down', () => {
    const hoist: LoadPlan = { kind: 'hoist', torque: 0.8, inertiaSeconds: 0.3 };
    expect([loadTorque(hoist, 0.5) > 0.8, loadTorque(hoist, -0.5) > 0.7]).toEqual([true, true]);
  });

  it('is a process that comes to 63 % of its step after dead time and one lag', () => {
    const plan = {
      transmitter: 'B1',
      rest: 0,
      full: 1,
      square: false,
      lagSeconds: 2,
      deadSeconds: 0.5,
      noise: 0,
    };
    const process = new Process(plan);
    let share = 0;
    for (let step = 0; step < 250; step += 1) share = process.step(0.01, 0.8);
    expect(share).toBeCloseTo(0.8 * (1 - Math.exp(-1)), 2);
  });
});

describe('identification', () => {
  const asked = (kind: string) =>
    new FloorUnit(HN64, { ...PLAIN, 'identify.start': kind }, { ...USUAL_LOAD, torque: 0.7 });
  const held = ({ unit }: FloorUnit, meaning: string) => unit.memory.value(meaning) ?? 0;
  const MEASURED = ['motor.statorResistance', 'motor.rotorResistance', 'motor.leakage'];
  const TURNING = ['motor.mainInductance', 'motor.noLoadCurrent'];

  it('begins with a run command alone, takes its time, and writes what it found in working memory', () => {
    const unit = asked('standing');
    const before = [...MEASURED, ...TURNING].map((meaning) => held(unit, meaning));
    unit.wait(20);
    expect([...MEASURED, ...TURNING].map((meaning) => held(unit, meaning))).toEqual(before);
    unit.run(true);
    unit.wait(3);
    expect(unit.see('monitor.frequency')).toBe(0);
    unit.wait(8);
    const after = [...MEASURED, ...TURNING].map((meaning) => held(unit, meaning));
    expect(after.slice(0, 3).every((value, at) => value !== before[at])).toBe(true);
    expect(after.slice(3)).toEqual(before.slice(3));
    expect(held(unit, 'identify.start')).toBe(0);
    expect(held(unit, 'identify.use')).toBe(0);
    // The run command still stands, and the next one counts.
    expect([unit.see('monitor.frequency'), unit.unit.running]).toEqual([0, false]);
    unit.run(false);
    unit.wait(1);
    unit.run(true);
    unit.wait(6);
    expect(unit.see('monitor.frequency')).toBe(40);
    unit.run(false);
    unit.wait(20);
    unit.unit.powerCycle();
    expect(MEASURED.map((meaning) => held(unit, meaning))).toEqual(before.slice(0, 3));
  });

  it('turning breaks off with a fault under load, and finds the rest when it is uncoupled', () => {
    const loaded = asked('turning');
    const before = TURNING.map((meaning) => held(loaded, meaning));
    loaded.run(true);
    loaded.wait(30);
    expect(TURNING.map((meaning) => held(loaded, meaning))).toEqual(before);
    expect(loaded.unit.running).toBe(false);
    const free = asked('turning');
    free.unit.disturb({ uncoupled: true });
    free.run(true);
    free.wait(30);
    expect(TURNING.map((meaning) => held(free, meaning))).not.toEqual(before);
  });

  it('that is broken off by taking the command away takes nothing over', () => {
    const unit = asked('standing');
    const before = MEASURED.map((meaning) => held(unit, meaning));
    unit.run(true);
    unit.wait(4);
    unit.run(false);
    unit.wait(20);
    expect(MEASURED.map((meaning) => held(unit, meaning))).toEqual(before);
  });
});
