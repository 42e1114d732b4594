// The shipped starting points, and sheets of first settings as a person fills them in.

import { readdirSync, readFileSync } from 'node:fs';
import { join } from 'node:path';
import fc from 'fast-check';
import type { Dictionary } from '../dictionary/index.ts';
import {
  askOf,
  readStartingPoint,
  type Ask,
  type DraftInput,
  type StartingPoint,
  type TypedFields,
} from '../start/index.ts';
import { outfitOf } from './bench-drive.ts';
import { bridge, vocabulary } from './shipped-bridge.ts';

const FOLDER = join(import.meta.dirname, '../../../catalogue/starting-points');

export const pointTexts: Readonly<Record<string, string>> = Object.fromEntries(
  readdirSync(FOLDER)
    .sort()
    .map((name) => [name.replace('.yaml', ''), readFileSync(join(FOLDER, name), 'utf8')]),
);

export const allPoints: readonly StartingPoint[] = Object.values(pointTexts).map((text) => {
  const read = readStartingPoint(text, vocabulary);
  if (!read.ok) throw new Error(JSON.stringify(read.fault));
  return read.value;
});

export const pointNamed = (id: string): StartingPoint => {
  const found = allPoints.find((point) => point.id === id);
  if (!found) throw new Error(`no starting point ${id}`);
  return found;
};

export const typedFrom = (fields: Readonly<Record<string, string>>): TypedFields =>
  new Map(Object.entries(fields).map(([key, text]) => [key, { text, why: '' }]));

/** Plates of four-pole motors, power in kW, as a catalogue of motors has them. */
export const PLATES: readonly Readonly<Record<string, string>>[] = (
  [
    ['0.75', '1.9', '1400', '0.76'],
    ['1.5', '3.6', '1420', '0.79'],
    ['2.2', '5.0', '1430', '0.81'],
    ['4', '8.6', '1440', '0.83'],
    ['7.5', '15.3', '1455', '0.84'],
  ] as const
).map(([power, current, speed, powerFactor]) => ({
  'plate.power': power,
  'plate.voltage': '400',
  'plate.current': current,
  'plate.frequency': '50',
  'plate.speed': speed,
  'plate.powerFactor': powerFactor,
  'supply.volts': '400',
  'supply.hertz': '50',
}));

/** What a starting point asks and cannot guess. */
const NEEDED: Readonly<Record<string, Readonly<Record<string, string>>>> = {
  'pump-pressure': { 'ask.setpoint': '4', 'ask.process.full': '8' },
  'fan-draught': { 'ask.setpoint': '-30', 'ask.process.full': '-90' },
  'lift-brake': { 'ask.brake.current': '1.9', 'ask.resistor.ohms': '200' },
};

export function draftInput(
  point: StartingPoint | null,
  dictionary: Dictionary,
  fields: Readonly<Record<string, string>> = {},
  plate: Readonly<Record<string, string>> = PLATES[1] ?? {},
): DraftInput {
  const typed = typedFrom({ ...plate, ...(point ? NEEDED[point.id] : {}), ...fields });
  return { bridge, dictionary, region: outfitOf(dictionary).region, rating: null, point, base: null, typed };
}

/** Answers to the questions of a point as somebody could give them: within their limits, each choice. */
export function anyAnswers(point: StartingPoint): fc.Arbitrary<Readonly<Record<string, string>>> {
  // A maximum is answered before what lies below it.
  const first = (id: string) => ['maximum', 'minimum'].indexOf(id);
  const order = [...point.asks].sort((a, b) => ((first(a.id) + 9) % 9) - ((first(b.id) + 9) % 9));
  const chain = order.reduce<fc.Arbitrary<Record<string, string>>>(
    (made, ask) =>
      made.chain((answers) =>
        anyAnswer(ask, NEEDED[point.id] ?? {}, answers).map((text) =>
          text === null ? answers : { ...answers, [`ask.${ask.id}`]: text },
        ),
      ),
    fc.constant({}),
  );
  return fc
    .tuple(chain, fc.constantFrom('link', 'relay'), fc.constantFrom(...PLATES))
    .map(([answers, sto, plate]) => ({
      ...plate,
      ...NEEDED[point.id],
      ...answers,
      'ask.sto': sto,
    }));
}

function anyAnswer(
  ask: Ask,
  needed: Readonly<Record<string, string>>,
  answers: Readonly<Record<string, string>>,
): fc.Arbitrary<string | null> {
  if (ask.kind === 'choice') return fc.constantFrom(...ask.options.map(({ id }) => id));
  if (ask.kind === 'text' || `ask.${ask.id}` in needed || ask.from === null || ask.to === null)
    return fc.constant(null);
  const limit = (given: number | string, way: 1 | -1): number => {
    const name = askOf(given);
    return name === undefined
      ? Number(given)
      : Number(answers[`ask.${name}`] ?? Number.NaN) + way * ask.apart;
  };
  const [low, high] = [limit(ask.from, 1), limit(ask.to, -1)];
  if (!Number.isFinite(low) || !(high > low)) return fc.constant(null);
  const step = high - low > 20 ? 1 : 0.1;
  return fc
    .integer({ min: Math.ceil(low / step), max: Math.floor(high / step) })
    .map((steps) => String(Number((steps * step).toFixed(1))));
}
