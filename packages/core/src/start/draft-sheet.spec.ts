import { describe, expect, it } from '@jest/globals';
import fc from 'fast-check';
import { machineOf } from '../behaviour/index.ts';
import { factsOf, findParameter, type Dictionary } from '../dictionary/index.ts';
import { planWrites } from '../plans/index.ts';
import { defaultSet } from '../sets/index.ts';
import {
  allPoints,
  anyAnswers,
  bridge,
  draftInput,
  modelNamed,
  pointNamed,
  SEEDED,
  typedFrom,
} from '../testing/index.ts';
import { allModels } from '../testing/shipped-model.ts';
import { meaningOf, showRaw } from '../values/index.ts';
import { checkWiring } from '../wiring/index.ts';
import { draftSheet, type DraftSheet } from './index.ts';

/** Which models take which duty; every other pair is refused. */
const TAKES: Readonly<Record<string, readonly string[]>> = {
  'agitator-buttons': ['halvern-hn20', 'halvern-hn64', 'toreka-c1', 'toreka-c7'],
  'axis-by-controller': ['quenby-s4'],
  'belt-presets': ['halvern-hn20', 'halvern-hn64', 'toreka-c1', 'toreka-c7', 'toreka-f3'],
  'belt-selector': ['halvern-hn20', 'halvern-hn64', 'toreka-c1', 'toreka-c7'],
  'fan-draught': ['halvern-hn20', 'halvern-hn64', 'toreka-c7', 'toreka-f3'],
  'fan-signal': ['halvern-hn20', 'halvern-hn64', 'toreka-c1', 'toreka-c7', 'toreka-f3'],
  'hand-off-auto': ['halvern-hn64', 'toreka-c7', 'toreka-f3'],
  'lift-brake': ['halvern-hn20', 'halvern-hn64', 'toreka-c7'],
  'pump-pressure': ['halvern-hn64', 'toreka-c7', 'toreka-f3'],
  'raise-lower': ['halvern-hn20', 'halvern-hn64', 'toreka-c1', 'toreka-c7'],
  'steady-run': ['halvern-hn20', 'halvern-hn64', 'toreka-c1', 'toreka-c7', 'toreka-f3'],
  'winder-trim': ['halvern-hn64', 'toreka-c7'],
};

const models = allModels.map(({ model }) => model);
const pairs = allPoints.flatMap((point) =>
  models.map((model) => ({ point, model, id: `${point.id} on ${model.id}` })),
);
const taken = pairs.filter(({ point, model }) => TAKES[point.id]?.includes(model.model));

const wrong = (sheet: DraftSheet) => ({
  refusals: sheet.refusals,
  rows: sheet.table.filter(({ passed }) => !passed),
  stops: sheet.findings.filter(({ attention }) => attention === 'stop'),
  faults: sheet.fields.flatMap(({ key, fault }) => (fault === null ? [] : [`${key}: ${fault}`])),
});
const NOTHING = { refusals: [], rows: [], stops: [], faults: [] };

describe('a starting point', () => {
  it.each(pairs)(
    '$id is taken where the model can do it, and else refused with the reason',
    ({ point, model }) => {
      const sheet = draftSheet(draftInput(point, model));
      if (TAKES[point.id]?.includes(model.model)) expect(wrong(sheet)).toEqual(NOTHING);
      else
        expect(sheet.refusals.join(' ')).toMatch(
          new RegExp(`${model.name} (has|can|cannot)|of the ${model.name}`),
        );
    },
  );

  it.each(taken)('$id passes its own table and stops nothing, whatever is answered', ({ point, model }) => {
    fc.assert(
      fc.property(anyAnswers(point), (answers) => {
        const sheet = draftSheet(draftInput(point, model, answers, {}));
        // A motor that no rating bears is refused elsewhere, and a speed below what the model can is told at its field.
        fc.pre(sheet.ratings.some(({ state }) => state === 'fits') && sheet.open === 0);
        expect(wrong(sheet)).toEqual(NOTHING);
        expect(checkWiring(model, sheet.wiring).filter(({ attention }) => attention === 'stop')).toEqual([]);
      }),
      { ...SEEDED, numRuns: 25 },
    );
  });

  it.each(taken)('$id is reached from a unit out of its box by a plan', ({ point, model }) => {
    const sheet = draftSheet(draftInput(point, model));
    const outfit = { rating: sheet.rating, region: draftInput(point, model).region };
    const delivered = defaultSet(model, outfit);
    if (!delivered) throw new Error('no defaults');
    const plan = planWrites(
      model,
      factsOf(model, outfit) ?? {},
      delivered,
      new Map(sheet.readings),
      'keypad',
    );
    expect(plan.unreachable).toEqual([]);
  });
});

const hn64 = modelNamed('halvern-hn64@1');
const field = (sheet: DraftSheet, key: string) => sheet.fields.find((each) => each.key === key);
const shown = (model: Dictionary, sheet: DraftSheet, code: string) => {
  const parameter = findParameter(model, code);
  const raw = parameter && sheet.readings.get(parameter.code);
  return parameter && raw !== undefined ? showRaw(parameter.form, raw) : undefined;
};

describe.each(models)('the fields of a sheet for $id', (model) => {
  const plain = draftInput(null, model, {}, {});
  const before = draftSheet(plain);

  it('show what stands there: the same typed back changes nothing', () => {
    const own = before.fields.filter(({ key, shown: text }) => key.startsWith('set.') && text !== '');
    expect(own.length).toBeGreaterThan(20);
    const wrong = own.flatMap(({ key, shown: text }) => {
      const { readings, faults } = draftSheet({ ...plain, typed: typedFrom({ [key]: text }) });
      const other = [...readings].filter(([code, raw]) => before.readings.get(code) !== raw);
      return faults.length + other.length === 0 ? [] : [`${key} ${text}: ${JSON.stringify([faults, other])}`];
    });
    expect(wrong).toEqual([]);
  });

  it('take every option that they offer', () => {
    const wrong = before.fields.flatMap(({ key, options }) =>
      (key.startsWith('set.') ? (options ?? []) : []).flatMap(({ id }) => {
        const { fields } = draftSheet({ ...plain, typed: typedFrom({ [key]: id }) });
        const now = fields.find((each) => each.key === key);
        return now?.fault === null && now.shown === id
          ? []
          : [`${key} ${id}: ${now?.shown ?? ''} ${now?.fault ?? ''}`];
      }),
    );
    expect(wrong).toEqual([]);
  });
});

describe('a sheet of first settings', () => {
  it('keeps what somebody typed before what is proposed, and shows what would follow', () => {
    const first = draftSheet(draftInput(pointNamed('belt-presets'), hn64, { 'set.limit.current': '4.1' }));
    expect(field(first, 'set.limit.current')).toMatchObject({
      from: 'typed',
      typed: '4.1',
      proposal: { shown: '5.40' },
    });
    const later = draftSheet(
      draftInput(pointNamed('belt-presets'), hn64, { 'set.limit.current': '4.1', 'plate.current': '3.0' }),
    );
    expect(shown(hn64, later, '19R')).toBe(shown(hn64, first, '19R'));
    expect(field(later, 'set.limit.current')?.proposal?.worked).toContain('1.5 · 3 A');
    expect(field(later, 'set.limit.current')?.proposal?.shown).not.toBe(
      field(first, 'set.limit.current')?.proposal?.shown,
    );
  });

  it('says of every setting that is not as delivered why it is so', () => {
    const sheet = draftSheet(draftInput(pointNamed('fan-signal'), hn64));
    expect(sheet.lines.length).toBeGreaterThan(10);
    expect(sheet.lines.filter(({ why }) => why === '')).toEqual([]);
  });

  it('asks what follows from what was answered', () => {
    const asked = (fields: Record<string, string>) =>
      draftSheet(draftInput(pointNamed('pump-pressure'), hn64, fields)).fields.map(({ key }) => key);
    expect(asked({ 'ask.sleep': 'yes' })).toContain('ask.sleep.below');
    expect(asked({ 'ask.sleep': 'no' })).not.toContain('ask.sleep.below');
  });

  it('has open what only a person can tell', () => {
    const input = draftInput(pointNamed('pump-pressure'), hn64);
    const typed = new Map(
      [...input.typed].filter(([key]) => key !== 'ask.setpoint' && key !== 'plate.speed'),
    );
    const open = draftSheet({ ...input, typed })
      .fields.filter((each) => each.open)
      .map(({ key }) => key);
    expect(open).toEqual(['ask.setpoint', 'plate.speed']);
  });

  it('finds nothing of a motor and a rating before they are told, and everything after', () => {
    const hn20 = modelNamed('halvern-hn20@1');
    const of = (current: string) => {
      const point = pointNamed('lift-brake');
      const sheet = draftSheet(
        draftInput(point, hn20, { 'plate.current': current, 'ask.brake.current': '2' }),
      );
      return { sheet, found: sheet.findings.map((each) => each.of) };
    };
    const untold = of('');
    expect(untold.sheet.refusals).toEqual([]);
    expect(untold.found).toEqual([]);
    expect(untold.sheet.untold).toContainEqual({ check: 'overload-over-plate', missing: ['Rated current'] });
    const small = of('1.1').sheet.refusals;
    expect(small.join(' ')).toContain('2 A is wanted, and 1.95 A is what the HN20 can have');
    expect(of('9.9').sheet.refusals).toEqual([]);
  });

  it('comes nearest with the largest rating where none bears the motor, and stops', () => {
    const sheet = draftSheet(draftInput(pointNamed('belt-presets'), hn64, { 'plate.current': '50' }));
    expect(sheet.rating).toBe(hn64.ratings.at(-1)?.id);
    expect(sheet.findings.map((each) => each.of)).toContain('current-over-unit');
  });

  it('has to be told the rating of a model that tells no currents, and names what has no setting', () => {
    const own = { ...hn64, parameters: hn64.parameters.map((each) => ({ ...each, meaning: null })) };
    const input = { ...draftInput(null, own), bridge };
    const sheet = draftSheet(input);
    expect(sheet).toMatchObject({ open: 1, faults: [{ key: 'unit.rating' }] });
    expect(field(sheet, 'plate.current')).toMatchObject({
      typed: '3.6',
      why: 'The model has no setting for it.',
    });
    expect(draftSheet({ ...input, rating: 'HN64-15' })).toMatchObject({ open: 0, rating: 'HN64-15' });
  });

  it('takes the set-point in the unit of the transmitter', () => {
    const sheet = draftSheet(
      draftInput(pointNamed('pump-pressure'), hn64, {
        'ask.range.low': '0',
        'ask.range.high': '16',
        'ask.setpoint': '4',
        'ask.process.full': '12',
      }),
    );
    const set = bridge.read(hn64, { rating: sheet.rating, region: '50-hz' }, sheet.readings);
    expect(set.get(meaningOf('loop.setpoint'))).toMatchObject({ value: 25, unit: '%' });
  });

  it('counts ramps to the base frequency of the plate', () => {
    const plate = { 'plate.frequency': '87', 'plate.speed': '2530', 'ask.maximum': '87' };
    const sheet = draftSheet(
      draftInput(pointNamed('belt-presets'), hn64, { ...plate, 'set.ramp.up': '4 s' }),
    );
    expect(shown(hn64, sheet, '01R')).toBe('4.00 s');
    expect(shown(hn64, sheet, '04M')).toBe('87.00 Hz');
  });

  it('goes to the terminal that somebody chose, and says why where it cannot', () => {
    const at = (terminal: string, role = 'S1:13-14') =>
      draftSheet(draftInput(pointNamed('belt-presets'), hn64, { [`terminal.${role}`]: terminal }));
    const chosen = at('27');
    expect(chosen.roles.find(({ role }) => role.id === 'S1:13-14')?.terminal?.id).toBe('27');
    expect(wrong(chosen)).toEqual(NOTHING);
    const unknown = at('99');
    expect(unknown.roles.find(({ role }) => role.id === 'S1:13-14')).toMatchObject({
      fault: 'The HN64 has no terminal 99. It went to another one.',
    });
    expect(unknown.table.every(({ passed }) => passed)).toBe(true);
    expect(at('41').roles.find(({ role }) => role.id === 'S1:13-14')?.fault).toMatch(
      /^Terminal 41 of the HN64 cannot be/,
    );
  });

  it('names a rating that is too small, and finds the smallest that bears the motor', () => {
    const input = draftInput(pointNamed('belt-presets'), hn64, {
      'plate.current': '5.0',
      'plate.power': '2.2',
      'plate.speed': '1430',
    });
    expect(draftSheet(input).rating).toBe('HN64-22');
    const small = draftSheet({ ...input, rating: 'HN64-08' });
    expect(small.ratings.find(({ id }) => id === 'HN64-08')).toMatchObject({ state: 'small' });
    expect(small.findings.find(({ of }) => of === 'current-over-unit')).toMatchObject({ attention: 'stop' });
  });

  it.each([
    ['plate.current', '0', /No plate has that/],
    ['plate.powerFactor', '1.2', /never above 1/],
    ['plate.speed', 'fast', /is no number/],
    ['plate.power', '3 bar', /is no unit for this/],
    ['ask.speed.1', '300', /is too much: 50 Hz at most/],
    ['set.frequency.maximum', 'much', /is no number/],
    ['set.stop.mode', 'hard', /Choose one of/],
    ['code.02C', 'much', /does not take/],
    ['code.13R', '9000', /at most|above/],
    ['code.ZZ9', '1', /has no ZZ9/],
    ['device.S9', 'fault-reset; often', /is not understood/],
  ])('keeps %s as it was typed and says what is wrong with "%s"', (key, text, said) => {
    const sheet = draftSheet(draftInput(pointNamed('belt-presets'), hn64, { [key]: text }));
    const faults = sheet.faults.filter((each) => each.key === key).map((each) => each.text);
    expect(faults.join(' ')).toMatch(said);
    expect(sheet.open).toBeGreaterThan(0);
  });

  it('never takes a plate that no motor has', () => {
    const sheet = draftSheet(
      draftInput(pointNamed('belt-presets'), hn64, { 'plate.speed': '900', 'plate.power': '7.5' }),
    );
    expect(sheet.motor.some(({ attention }) => attention === 'stop')).toBe(true);
    expect(sheet.findings.some(({ attention }) => attention === 'stop')).toBe(true);
  });

  it('hangs a further contact where one is wanted', () => {
    const sheet = draftSheet(
      draftInput(pointNamed('belt-presets'), hn64, { 'device.S10': 'coast; opens; maintained; acts open' }),
    );
    expect(wrong(sheet)).toEqual(NOTHING);
    const role = sheet.roles.find(({ role: { id } }) => id === 'S10:21-22');
    expect(role?.role.does).toBe('coast');
    const machine = machineOf(
      bridge.read(hn64, { rating: sheet.rating, region: '50-hz' }, sheet.readings),
      sheet.wiring,
    );
    expect(machine.inputs.find(({ terminal }) => terminal === role?.terminal?.id)).toMatchObject({
      does: 'coast',
      opens: true,
    });
  });

  it('begins with another set of the same unit as it is, but for what belongs to that unit', () => {
    const outfit = { rating: 'HN64-15', region: '50-hz' };
    const own = draftSheet({ ...draftInput(pointNamed('fan-signal'), hn64), rating: 'HN64-15' });
    const readings = new Map(own.readings);
    const address = hn64.parameters.find(({ meaning }) => meaning === 'network.address');
    if (address) readings.set(address.code, 17);
    const set = bridge.read(hn64, outfit, readings);
    const base = { title: 'KL1-FA-01', set, outfit, wiring: own.wiring, cross: null };
    const input = { ...draftInput(null, hn64, {}, {}), rating: 'HN64-15', base };
    const sheet = draftSheet(input);
    expect([...sheet.readings].sort()).toEqual([...own.readings].sort());
    expect(sheet.wiring).toEqual(own.wiring);
    expect(new Set(sheet.lines.map(({ why }) => why))).toEqual(new Set(['As KL1-FA-01.']));
    const but = draftSheet({ ...input, typed: typedFrom({ 'set.frequency.maximum': '45' }) });
    expect(shown(hn64, but, '13R')).toBe('45.00 Hz');
  });

  it('is carried to another model by the bridge, with what changes', () => {
    const c7 = modelNamed('toreka-c7@1');
    const own = draftSheet({ ...draftInput(pointNamed('fan-signal'), hn64), rating: 'HN64-15' });
    const set = bridge.read(hn64, { rating: 'HN64-15', region: '50-hz' }, own.readings);
    const base = {
      title: 'a fan',
      set,
      outfit: { rating: 'HN64-15', region: '50-hz' },
      wiring: own.wiring,
      cross: null,
    };
    const sheet = draftSheet({ ...draftInput(null, c7, {}, {}), base });
    const now = bridge.read(c7, { rating: sheet.rating, region: '50-hz' }, sheet.readings);
    for (const meaning of ['speed.source', 'analog.1.signal', 'stop.mode', 'frequency.minimum'].map(
      meaningOf,
    ))
      expect([meaning, now.get(meaning)]).toMatchObject([meaning, pick(set.get(meaning))]);
    expect(sheet.carried.length).toBeGreaterThan(0);
    const machine = machineOf(now, sheet.wiring);
    expect(machine.wiring.devices.map(({ name }) => name)).toEqual(
      own.wiring.devices.map(({ name }) => name),
    );
  });
});

const pick = (plain: object) =>
  'value' in plain ? { value: plain.value } : 'option' in plain ? { option: plain.option } : {};
