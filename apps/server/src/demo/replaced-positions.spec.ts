// Every position of the demo with an old model, replaced by each of its successors as the sheet says it with nothing answered: both
// units are simulated and worked by the same hands at the devices of the field. Where the walk says that they do the same, they
// do; where they differ, the sheet has said so.

import { readFileSync, readdirSync } from 'node:fs';
import { join } from 'node:path';
import { expect, it } from '@jest/globals';
import { sameBehaviour, type Event, type Machine } from '@drive-keep/core/behaviour';
import { NOTHING_SAID, readCrossReference, replaceBy } from '@drive-keep/core/replace';
import type { FieldDevice } from '@drive-keep/core/wiring';
import { plainWiring } from '@drive-keep/core/wiring';
import { loadModels, SimUnit } from '@drive-keep/plant-sim';
import fc from 'fast-check';
import { MODELS_FOLDER } from '../testing/running-plant.ts';
import { demoPositions } from './demo-positions.ts';
import { demoWiring } from './demo-wirings.ts';
import { bridgeBeside } from './describe-plant.ts';
import { setAt } from './position-history.ts';
import { beforeReplacement } from './story.ts';

/** For each pair; by hand REPLACED_SEQUENCES=2000. */
const SEQUENCES = Number(process.env['REPLACED_SEQUENCES'] ?? 12);
const EVENTS = 24;
/** Half a step of the coarser model, and the dust of two ways to compute it. */
const NEAR = 0.051;
const MAINS = 400;
const WALK = { mostPairs: 50_000, mostDifferences: 40, keys: false };

const models = loadModels(MODELS_FOLDER);
const bridge = bridgeBeside(MODELS_FOLDER);
const folder = join(MODELS_FOLDER, '../cross-references');
const pairs = readdirSync(folder).flatMap((file) => {
  const [oldModel = '', freshModel = ''] = file.replace('.yaml', '').split('--');
  const [old, fresh] = [models.get(`${oldModel}@1`), models.get(`${freshModel}@1`)];
  const told = demoPositions().map((each) => beforeReplacement(each) ?? each);
  return old && fresh
    ? told
        .filter(({ model }) => model === old.id)
        .map((each) => ({ tag: each.tag, by: fresh.name, told: each, old, fresh, file }))
    : [];
});

const unitOf = (
  machine: Machine,
  values: ReadonlyMap<string, unknown>,
  told: { rating: string; region: string },
) => {
  const { dictionary } = machine.set;
  const raws = [...values].flatMap(([code, raw]) => (typeof raw === 'number' ? [[code, raw] as const] : []));
  const unit = new SimUnit(
    {
      ...{ line: '', address: 1, dictionary: dictionary.id, serial: 1, firmware: 100, ...told },
      values: Object.fromEntries(raws),
      floor: { ...plainWiring(machine.wiring), logic: machine.logic ?? 'sourcing' },
    },
    dictionary,
    MAINS,
    () => 0,
  );
  if (!unit.wired) throw new Error('nothing hangs on it');
  unit.wired.switchSupply(false);
  return unit.wired;
};
type Wired = ReturnType<typeof unitOf>;

/** What a walk brings about: whole ways of a signal, no key but reset. */
const anyEventAt = (devices: readonly FieldDevice[]): fc.Arbitrary<Event> => {
  const places = devices.flatMap((device): { name: string; to: readonly number[] }[] => {
    const { name } = device;
    switch (device.kind) {
      case 'contact':
      case 'sensor':
      case 'safety-relay':
      case 'controller':
        return [{ name, to: [0, 1] }];
      case 'selector':
        return [{ name, to: device.places.map((_, at) => at) }];
      case 'potentiometer':
      case 'transmitter':
        return [{ name, to: [0, 0.5, 1] }];
      default:
        return [];
    }
  });
  return fc.oneof(
    {
      weight: 12,
      arbitrary: fc
        .constantFrom(...places)
        .chain(({ name, to }) =>
          fc.constantFrom(...to).map((at): Event => ({ kind: 'device', name, to: at })),
        ),
    },
    { weight: 2, arbitrary: fc.constant<Event>({ kind: 'settle' }) },
    { weight: 1, arbitrary: fc.boolean().map((on): Event => ({ kind: 'supply', on })) },
    { weight: 1, arbitrary: fc.constant<Event>({ kind: 'key', key: 'reset' }) },
    {
      weight: 1,
      arbitrary: fc.constantFrom('overcurrent', 'motorOverload').map((of): Event => ({ kind: 'fault', of })),
    },
  );
};

function happen(wired: Wired, event: Event): void {
  if (event.kind === 'device') wired.work(event.name, event.to);
  else if (event.kind === 'supply') wired.switchSupply(event.on);
  else if (event.kind === 'fault') wired.fail(event.of);
  else if (event.kind === 'key') wired.press(event.key);
  else if (event.kind === 'settle') wired.settle();
}

const differ = ([a, b]: readonly [Wired, Wired]): boolean => {
  const [one, other] = [a.report, b.report];
  const far =
    one.setpoint !== undefined &&
    other.setpoint !== undefined &&
    Math.abs(one.setpoint - other.setpoint) > NEAR;
  return one.runs !== other.runs || one.reverse !== other.reverse || (one.runs && far);
};

it.each(pairs)('$tag does by its $by what the sheet says', ({ told, old, fresh, file }) => {
  const read = readCrossReference(readFileSync(join(folder, file), 'utf8'), old, fresh);
  if (!read.ok) throw new Error(JSON.stringify(read.fault));
  const wiring = demoWiring(told, old, bridge);
  const readings = setAt(old, told, 0).readings;
  const { rating, replacement } = replaceBy({
    ...{ bridge, words: bridge.vocabulary, fresh, region: told.region, rating: null, cross: read.value },
    old: { set: bridge.read(old, told, readings), outfit: told, wiring, onLine: false },
    sayings: NOTHING_SAID,
  });
  const walked = sameBehaviour(replacement.old, replacement.machine, WALK);
  expect(walked.unfinished).toBe(false);
  const units = (): readonly [Wired, Wired] => [
    unitOf(replacement.old, readings, { rating: told.rating, region: told.region }),
    unitOf(replacement.machine, replacement.settings.readings, { rating, region: told.region }),
  ];
  let met = 0;
  fc.assert(
    fc.property(fc.array(anyEventAt(wiring.devices), { minLength: EVENTS, maxLength: EVENTS }), (events) => {
      const both = units();
      for (const event of [{ kind: 'supply' as const, on: true }, ...events]) {
        for (const each of both) happen(each, event);
        if (!differ(both)) continue;
        met += 1;
        expect([walked.same, event, both[0].report, both[1].report]).toEqual([
          false,
          event,
          both[0].report,
          both[1].report,
        ]);
      }
    }),
    { numRuns: SEQUENCES, seed: 15, endOnFailure: true },
  );
  // What the sheet says of starting, direction or speed shows on the units by the way that it tells.
  for (const { aspect, events } of walked.differences) {
    if (!['starts', 'does-not-start', 'direction', 'speed'].includes(aspect)) continue;
    if (events.some(({ kind }) => kind === 'break' || kind === 'mend')) continue;
    const both = units();
    for (const event of events) for (const each of both) happen(each, event);
    if (both.some(({ report }) => report.setpoint === undefined && report.runs)) continue;
    expect([aspect, events, differ(both)]).toEqual([aspect, events, true]);
  }
  expect(met > 0 && walked.same).toBe(false);
});
