import { join } from 'node:path';
import { afterAll, beforeAll, describe, expect, it } from '@jest/globals';
import { factsOf, isNoise, limitsOf, type Dictionary, type Parameter } from '@drive-keep/core/dictionary';
import { loadModels, Plant } from '@drive-keep/plant-sim';
import { ModbusLine } from './modbus-line.ts';
import { readUnit } from './unit-reader.ts';
import { rawToWords, wordsToRaw } from './words.ts';

const MODELS = [...loadModels(join(import.meta.dirname, '../../../../packages/catalogue/models')).values()];
const CONTROL = { progress: () => undefined, stopped: () => false };
const READ_ONLY = 1;

let plant: Plant;
let line: ModbusLine;

/** One unit of each model on one line, with values at the ends of their ranges. */
beforeAll(async () => {
  plant = new Plant(
    {
      mains: 400,
      lines: [{ id: 'one', port: 0, delayMs: 0 }],
      units: MODELS.map((model, at) => ({
        line: 'one',
        address: at + 1,
        dictionary: model.id,
        rating: model.ratings[0]?.id ?? '',
        region: model.regions[0]?.id ?? '',
        firmware: 207,
        serial: 3_000_000_000 + at,
        values: Object.fromEntries(
          model.parameters.filter(isSetting).map((each, place) => [each.code, endOf(model, each, place)]),
        ),
      })),
    },
    { dictionaries: new Map(MODELS.map((model) => [model.id, model])) },
  );
  const ports = await plant.listen();
  line = new ModbusLine({ host: '127.0.0.1', port: ports.get('one') ?? 0 });
});
afterAll(async () => {
  line.close();
  await plant.close();
});

/** A lock would keep the tests from writing. */
const isSetting = (parameter: Parameter): boolean =>
  !isNoise(parameter) && parameter.access !== 'read' && !/lock/i.test(parameter.meaning ?? '');

const factsFor = (model: Dictionary) =>
  factsOf(model, { rating: model.ratings[0]?.id ?? '', region: model.regions[0]?.id ?? '' }) ?? {};

/** Minimum and maximum in turn: signs and high words are where reading goes wrong. */
function endOf(model: Dictionary, parameter: Parameter, place: number): number {
  const { minimum, maximum } = limitsOf(parameter, factsFor(model));
  const { form } = parameter;
  if (form.kind === 'option') return form.options[place % form.options.length]?.raw ?? 0;
  return place % 2 === 0 ? maximum : minimum;
}

describe.each(MODELS.map((model, at) => [model.id, model, at] as const))('a unit of %s', (_, model, at) => {
  const expected = { address: at + 1, serial: 3_000_000_000 + at };
  const facts = model.line;
  if (!facts) throw new Error(`${model.id} has no line`);

  it('is read over the real protocol as it is, word order, signs and 32 bits included', async () => {
    const read = await readUnit(line, model, facts, expected, CONTROL);
    if (!read.ok) throw new Error(read.fault.code);
    expect(read.value.identity).toMatchObject({
      serial: expected.serial,
      firmware: '2.07',
      rating: model.ratings[0]?.id,
    });
    const unit = plant.units.get(expected.serial);
    for (const [code, reading] of read.value.set.readings)
      expect([code, reading]).toEqual([code, unit?.memory.get(code)]);
    expect(read.value.set.readings.size).toBe(model.parameters.filter((each) => !isNoise(each)).length);
  });

  it('takes a value, refuses one out of range, and refuses what can only be read as its manual says', async () => {
    const number = model.parameters.find(
      (each) =>
        isSetting(each) && each.form.kind === 'number' && each.register?.width === 16 && !each.restart,
    );
    if (!number?.register) throw new Error(model.id);
    const { minimum, maximum } = limitsOf(number, factsFor(model));
    const write = (parameter: Parameter, raw: number) => {
      const place = parameter.register;
      if (!place) throw new Error(parameter.code);
      return line.write(expected.address, place.address, rawToWords(place, raw, facts.wordOrder));
    };
    expect((await write(number, minimum)).ok).toBe(true);
    const back = await line.read(expected.address, number.register.address, 1);
    expect(back.ok && wordsToRaw(number.register, back.value, facts.wordOrder)).toBe(minimum);
    const beyond = number.register.signed ? 32_767 : 65_535;
    if (maximum < beyond)
      expect(await write(number, beyond)).toMatchObject({ ok: false, fault: { exception: 'value' } });
    const fixed = model.parameters.find(
      ({ access, register }) => access === 'read' && register?.width === 16,
    );
    const refused = fixed && (await write(fixed, READ_ONLY));
    const manual = { 2: 'address', 4: 'failure' }[facts.refusals.readOnly];
    expect(refused).toMatchObject({ ok: false, fault: { code: 'refused', exception: manual } });
  });

  it('is taken for no other model', async () => {
    const other = MODELS[(at + 2) % MODELS.length];
    if (!other?.line || other.model === model.model) return;
    const read = await readUnit(line, other, other.line, expected, CONTROL);
    expect(read.ok ? 'taken' : read.fault.code).not.toBe('taken');
  });
});
