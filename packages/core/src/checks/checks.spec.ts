import { describe, expect, it } from '@jest/globals';
import {
  findMeaning,
  findParameter,
  refusalOf,
  type Code,
  type Dictionary,
  type Outfit,
} from '../dictionary/index.ts';
import { CHECK_WORDS, describe as sentence } from '../findings/index.ts';
import { bridge } from '../testing/shipped-bridge.ts';
import { modelNamed, outfitOf, plainReadings } from '../testing/bench-drive.ts';
import { checkedDrives, type Told } from '../testing/checked-drives.ts';
import { benchWiring } from '../testing/bench-wiring.ts';
import { allModels } from '../testing/shipped-model.ts';
import { defaultSet } from '../sets/index.ts';
import { meaningOf, readTable, type Reading } from '../values/index.ts';
import { readWiring, type Wiring } from '../wiring/index.ts';
import fc from 'fast-check';
import { plateFromSet, plateOf } from '../motor/index.ts';
import { writePlain, type Plain } from '../meanings/index.ts';
import { anySetOf, SEEDED } from '../testing/arbitraries.ts';
import { CHECKS, groundOf, NO_SITE, runChecks, type Ground, type Peer } from './index.ts';

function wiringOf(rows: readonly string[]): Wiring {
  const table = readTable(['row,name,colour,from,to,facts,what', ...rows].join('\n'));
  const read = table.ok ? readWiring(table.value) : undefined;
  if (!read?.ok) throw new Error(JSON.stringify(read));
  return read.value;
}

const setOf = (model: Dictionary, told: Told, more: Told['values'] = {}) =>
  new Map<Code, Reading>(plainReadings(model, { ...told.values, ...more }));

function groundTold(told: Told): Ground {
  const shipped = modelNamed(told.model ?? 'halvern-hn64@1');
  const model = told.own?.(shipped) ?? shipped;
  const outfit = { ...outfitOf(model), ...(told.rating === undefined ? {} : { rating: told.rating }) };
  const readings = setOf(model, told);
  for (const name of told.without ?? []) {
    const code = findMeaning(model, meaningOf(name))?.code;
    if (code === undefined) throw new Error(`${model.id} has no ${name}`);
    readings.delete(code);
  }
  for (const [code, raw] of Object.entries(told.raw ?? {})) readings.set(code as Code, raw);
  const peers = (told.peers ?? []).map((values, at): Peer => ({
    ...{ tag: `P-${at}`, firmware: '207' },
    set: bridge.read(model, outfit, setOf(model, { values })),
  }));
  const { baseline } = told;
  return groundOf(bridge, model, outfit, readings, {
    ...told.known,
    peers,
    ...(told.wiring ? { wiring: wiringOf(told.wiring) } : {}),
    baseline:
      baseline === undefined
        ? null
        : baseline === 'none'
          ? 'none'
          : bridge.read(model, outfit, setOf(model, told, baseline)),
  });
}

const checkNamed = (id: string) => CHECKS.filter((each) => each.id === id);

describe('every check', () => {
  it('has words, and drives that have it and have it not', () => {
    expect(CHECKS.map(({ id }) => id).sort()).toEqual(Object.keys(CHECK_WORDS).sort());
    // No shipped model leaves open what two inputs with one function do: that one has a test of its own.
    const cases = [...Object.keys(checkedDrives), 'function-twice'].sort();
    expect(cases).toEqual(CHECKS.map(({ id }) => id).sort());
  });

  it.each(Object.entries(checkedDrives))(
    '%s is found where it is, and says what and where',
    (id, { has }) => {
      const { found } = runChecks(groundTold(has), checkNamed(id));
      expect(found.map(({ check }) => check)).toContain(id);
      for (const each of found) expect(sentence(each.said)).toMatch(/\.$/);
    },
  );

  it.each(Object.entries(checkedDrives))(
    '%s is not found on the nearest drive that has it not',
    (id, { hasNot }) => {
      const { found, untold } = runChecks(groundTold(hasNot), checkNamed(id));
      expect(found.map((each) => sentence(each.said))).toEqual([]);
      expect(untold).toEqual([]);
    },
  );

  it.each(Object.entries(checkedDrives).filter(([, { untold }]) => untold))(
    '%s says that it cannot be told',
    (id, { untold }) => {
      const report = runChecks(groundTold(untold ?? {}), checkNamed(id));
      expect(report.found).toEqual([]);
      expect(report.untold.map(({ check }) => check)).toEqual([id]);
    },
  );
});

describe('what a check proposes', () => {
  it.each(Object.entries(checkedDrives))('mends %s without a new stop', (id, { has }) => {
    const ground = groundTold(has);
    const before = runChecks(ground).found.filter(({ attention }) => attention === 'stop');
    const [first] = runChecks(ground, checkNamed(id)).found;
    for (const mend of first?.mends ?? []) {
      const readings = new Map<Code, Reading>(ground.set.readings);
      for (const { code, raw } of mend) {
        expect(findParameter(ground.set.dictionary, code)).toBeDefined();
        readings.set(code, raw);
      }
      const after = groundTold(has);
      const report = runChecks({ ...after, ...regrounded(ground, readings) });
      expect(report.found.filter((each) => each.check === id && each.at === first?.at)).toEqual([]);
      const stops = report.found.filter(({ attention }) => attention === 'stop').map(({ check }) => check);
      expect(stops.filter((check) => before.every((each) => each.check !== check))).toEqual([]);
    }
  });
});

describe('two inputs with one function', () => {
  it('are told where the model does not say what they do together, and only there', () => {
    const values = { 'input.4.function': 'jog', 'input.5.function': 'jog' };
    const silent = ({ behaviour, ...model }: Dictionary): Dictionary => {
      const rules = Object.entries(behaviour).filter(([rule]) => rule !== 'function.twice');
      return { ...model, behaviour: Object.fromEntries(rules) };
    };
    const foundBy = (told: Told) => runChecks(groundTold(told), checkNamed('function-twice')).found;
    expect(foundBy({ values, own: silent })).toHaveLength(1);
    expect(foundBy({ values: { 'input.4.function': 'jog' }, own: silent })).toEqual([]);
    expect(foundBy({ values })).toEqual([]);
  });
});

describe('the current of a unit in its cabinet', () => {
  // HN64-15 heavy duty: 4.10 A; 88 % at 50 °C; 100 % at 4 kHz and 82 % at 8 kHz, so 91 % at 6 kHz.
  const at = (kilohertz: number) =>
    runChecks(
      groundTold({
        rating: 'HN64-15',
        values: { 'motor.ratedCurrent': 3.6, 'carrier.frequency': kilohertz * 1000, 'carrier.auto': 'off' },
        known: { site: { ...NO_SITE, ambient: 50 } },
      }),
      checkNamed('current-over-unit'),
    ).found.map(({ said }) => (said.facts as { left: string }).left);

  it('carries 3.60 A at 50 °C and 4 kHz with 3.61 A, and not at 6 kHz with 3.28 A', () => {
    expect([at(4), at(6)]).toEqual([[], ['3.28 A']]);
    expect(Number((4.1 * 0.88).toFixed(3))).toBe(3.608);
  });
});

describe('sets as models are delivered', () => {
  /** What the works leave open, and every commissioning decides. */
  const MEANT = ['halvern-hn20 overload-over-plate', 'halvern-hn64 hand-at-power-up'];
  /** A contact on every input, and commands from the keypad as delivered; an open contact on an input that acts while open. */
  const WIRED = [
    ...MEANT,
    ...['halvern-hn20', 'quenby-s4', 'toreka-c1', 'toreka-c7', 'toreka-f3'].map(
      (name) => `${name} input-dead`,
    ),
    'toreka-f3 contact-sense',
  ];
  it('have nothing wrong but what their makers deliver so, with every rating and in every region', () => {
    let sets = 0;
    const told = { bare: new Set<string>(), wired: new Set<string>() };
    for (const { model } of allModels)
      for (const { id: rating } of model.ratings)
        for (const { id: region } of model.regions)
          for (const wiring of [null, benchWiring(model)])
            for (const hertz of [50, 60]) {
              const outfit = { rating, region };
              const readings = defaultSet(model, outfit)?.readings ?? new Map<Code, Reading>();
              const known = {
                wiring,
                site: { ...NO_SITE, hertz: region.startsWith('60') ? 60 : hertz === 60 ? null : 50 },
              };
              const { found } = runChecks(groundOf(bridge, model, outfit, readings, known));
              for (const each of found)
                told[wiring === null ? 'bare' : 'wired'].add(
                  `${model.model.replace(/-2$/, '')} ${each.check}`,
                );
              sets += 1;
            }
    expect([...told.bare].sort()).toEqual(MEANT);
    expect([...told.wired].sort()).toEqual(WIRED.sort());
    expect(sets).toBeGreaterThan(300);
  });
});

describe('whatever a unit holds', () => {
  it('is checked without a stumble, in whole sentences, and a mend is something the unit takes', () => {
    let found = 0;
    for (const { model, facts } of allModels) {
      const outfit = outfitOf(model);
      fc.assert(
        fc.property(anySetOf(model, facts), fc.boolean(), fc.nat({ max: 3 }), (set, wired, holes) => {
          const readings = new Map<Code, Reading>(set.readings);
          const codes = [...readings.keys()];
          for (let hole = 0; hole < holes; hole += 1) {
            const code = codes[(hole * 37) % codes.length];
            if (code) readings.set(code, { unreadable: 'refused' });
          }
          const rating = {
            voltage: 400,
            frequency: 50,
            power: 1500,
            current: 3.6,
            speed: 1410,
            powerFactor: 0.8,
          };
          const ground = groundOf(bridge, model, outfit, readings, {
            ...{ wiring: wired ? benchWiring(model) : null, plate: { ratings: [rating], inertia: 0.003 } },
            site: { ambient: 45, hertz: 50, nominalVolts: 400, measuredVolts: 427, residualMilliamps: 30 },
            ...{
              address: 3,
              firmware: '207',
              baseline: bridge.read(model, outfit, set.readings),
              proved: false,
            },
          });
          for (const { said, mends, values } of runChecks(ground).found) {
            found += 1;
            expect(sentence(said)).toMatch(/\.$/);
            expect(sentence(said)).not.toMatch(/undefined|NaN|Infinity|\[object/);
            for (const { code } of values) expect(findParameter(model, code)).toBeDefined();
            for (const { code, raw } of mends.flat()) {
              const parameter = findParameter(model, code);
              if (!parameter) throw new Error(code);
              expect([code, raw, refusalOf(parameter, raw, facts)?.code]).toEqual([code, raw, undefined]);
            }
          }
        }),
        { ...SEEDED, numRuns: 40 },
      );
    }
    expect(found).toBeGreaterThan(500);
  });
});

describe('a model of somebody’s own', () => {
  it('that tells no meanings, no behaviour and no terminals is told as that, and never as wrong', () => {
    const bare = (model: Dictionary): Dictionary => ({
      ...model,
      ...{ behaviour: {}, terminals: null, fixed: [], effects: [], derating: null, unitCurrent: null },
      parameters: model.parameters.map((parameter) => ({ ...parameter, meaning: null, of: null })),
    });
    const model = modelNamed('halvern-hn64@1');
    const readings = defaultSet(model, outfitOf(model))?.readings ?? new Map<Code, Reading>();
    const { found, untold, looked } = runChecks(
      groundOf(bridge, bare(model), outfitOf(model), readings, { baseline: null }),
    );
    expect(found).toEqual([]);
    // Its ranges, and nothing else: it is not said that all checks found nothing.
    expect(looked).toBeLessThan(6);
    expect(runChecks(groundTold({})).looked).toBeGreaterThan(40);
    // It lacks no wiring either: what has no contacts is asked for none.
    expect(untold.flatMap(({ missing }) => missing)).not.toContain('undefined');
  });
});

describe('drives as they are commissioned', () => {
  const FREE = { startLock: 'command.startLock', powerUp: 'command.powerUp', loss: 'analog.1.loss' };
  const anyDrive = fc.record({
    model: fc.constantFrom(...allModels.map(({ model }) => model)),
    at: fc.nat({ max: 50 }),
    speed: fc.constantFrom('source.presets', 'source.analog.1', 'source.keypad'),
    signal: fc.constantFrom('0-10-v' as const, '4-20-ma' as const),
    minimum: fc.integer({ min: 0, max: 12 }),
    maximum: fc.integer({ min: 45, max: 60 }),
    preset: fc.integer({ min: 15, max: 44 }),
    ambient: fc.integer({ min: 15, max: 38 }),
    share: fc.integer({ min: 60, max: 95 }),
  });

  /** Switches of the board as the set wants them. */
  function boardOf(model: Dictionary, readings: ReadonlyMap<Code, Reading>): Record<string, string> {
    return Object.fromEntries(
      (model.terminals?.switches ?? []).flatMap(({ id, agreesWith, places }) => {
        const raw = agreesWith === null ? undefined : readings.get(agreesWith);
        const place = places.find(({ agrees }) => typeof raw === 'number' && agrees?.includes(raw));
        return place ? [[id, place.name]] : [];
      }),
    );
  }

  /** As its works deliver this rating, with its contacts free and commanded from its terminals. */
  function startOf(model: Dictionary, outfit: Outfit): Map<Code, number> {
    const first = defaultSet(model, outfitOf(model))?.readings;
    const start = new Map(defaultSet(model, outfit)?.readings as ReadonlyMap<Code, number>);
    for (const [code, raw] of plainReadings(model, {}))
      if (typeof raw === 'number' && first?.get(code) !== raw) start.set(code, raw);
    return start;
  }

  it('raise no alarm, whatever the model, the speed and the limits', () => {
    let drives = 0;
    fc.assert(
      fc.property(anyDrive, ({ model, at, speed, signal, minimum, maximum, preset, ambient, share }) => {
        const has = bridge.carriersOf(model).of;
        const only = (values: Readonly<Record<string, string | number>>) =>
          Object.fromEntries(Object.entries(values).filter(([name]) => has.has(meaningOf(name))));
        const rating = model.ratings[at % model.ratings.length]?.id ?? '';
        const outfit = { rating, region: outfitOf(model).region };
        // A servo's speed is none of its analog inputs', and its plate another one.
        if (model.model === 'quenby-s4') return;
        const unit = bridge.read(model, outfit, new Map()).reference('unit.current');
        const amps = unit.ok ? Math.floor((unit.value.value * share) / 10) / 10 : 1;
        const watts = Math.sqrt(3) * 400 * amps * 0.8 * 0.78;
        const wanted = only({
          ...{ 'motor.ratedCurrent': amps, 'motor.ratedPower': watts, 'motor.ratedVoltage': 400 },
          ...{ 'motor.baseFrequency': 50, 'motor.ratedSpeed': 1420, 'motor.poles': 4 },
          ...{ 'protect.overloadCurrent': amps, 'restart.count': 0, 'speed.source': speed },
          ...{ 'frequency.maximum': maximum, 'frequency.minimum': minimum, 'preset.1': preset },
          ...{ 'preset.contact.1': preset, 'speed.keypad': preset, 'analog.1.signal': signal },
          ...{ 'analog.1.liveZero': signal === '4-20-ma' ? 'on' : 'off' },
          ...{ [FREE.startLock]: 'wait', [FREE.powerUp]: 'automatic', [FREE.loss]: 'fault' },
        });
        const start = startOf(model, outfit);
        const plain = new Map(
          Object.entries(wanted).map(([name, value]) => [meaningOf(name), plainOf(name, value)]),
        );
        const { readings } = writePlain(bridge, model, outfit, plain, start);
        const wiring = benchWiring(model, { signals: { 1: signal } });
        const { ratings } = plateOf(plateFromSet(bridge, model, { dictionary: model.id, readings }));
        const ground = groundOf(bridge, model, outfit, readings, {
          wiring: { ...wiring, switches: boardOf(model, readings) },
          plate: { ratings, inertia: 0.002 },
          site: { ...NO_SITE, ambient, hertz: 50, nominalVolts: 400, measuredVolts: 398 },
        });
        const told = runChecks(ground).found.map(({ check, said }) => `${check}: ${sentence(said)}`);
        expect([model.id, rating, speed, told]).toEqual([model.id, rating, speed, []]);
        drives += 1;
      }),
      { ...SEEDED, numRuns: 1000 },
    );
    expect(drives).toBeGreaterThan(700);
  });
});

const regrounded = ({ set, outfit, wired, machine }: Ground, readings: ReadonlyMap<Code, Reading>) => {
  const { dictionary } = set;
  const { set: fresh, machine: remade } = groundOf(bridge, dictionary, outfit, readings, {
    wiring: wired ? machine.wiring : null,
  });
  return { set: fresh, machine: remade };
};

function plainOf(name: string, value: string | number): Plain {
  const how = { codes: [], how: null };
  if (typeof value === 'string') return { kind: 'choice', option: value, ...how };
  return { kind: 'number', value, unit: bridge.vocabulary.of(meaningOf(name))?.unit ?? '', step: 0, ...how };
}
