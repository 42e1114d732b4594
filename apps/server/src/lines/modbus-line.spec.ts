import { meaningOf } from '@drive-keep/core/values';
import { join } from 'node:path';
import { afterAll, beforeAll, beforeEach, describe, expect, it } from '@jest/globals';
import type { Dictionary } from '@drive-keep/core/dictionary';
import { findMeaning } from '@drive-keep/core/dictionary';
import { loadModels, Plant, type Mischief, type SimUnit } from '@drive-keep/plant-sim';
import { FRAMINGS } from './line-settings.ts';
import { lineFactsOf } from './line-facts.ts';
import { ModbusLine } from './modbus-line.ts';
import { describeFault, outcomeOf } from './line-text.ts';
import { readUnit, type ReadControl } from './unit-reader.ts';
import { UnitWriter } from './unit-writer.ts';

const dictionaries = loadModels(join(import.meta.dirname, '../../../../packages/catalogue/models'));
const dictionary = dictionaries.get('halvern-hn64@1') as Dictionary;
const facts = lineFactsOf(dictionary);
const SERIAL = 6_401_137;
const MODEL = facts.identity.model?.register ?? 0;
/** Short, so that time-outs do not make the tests slow. */
const TIMING = { timeoutMs: 200, retries: 1 };
const NAME = { tag: 'KL1-RD-01', serial: SERIAL, modelName: 'HN64' };

describe.each(FRAMINGS)('over %s', (framing) => {
  let plant: Plant;
  let port: number;

  beforeAll(async () => {
    const description = {
      line: 'one',
      address: 1,
      dictionary: dictionary.id,
      rating: 'HN64-15',
      region: '50-hz',
      firmware: 207,
      serial: SERIAL,
      values: {},
    };
    plant = new Plant(
      { mains: 400, lines: [{ id: 'one', port: 0, delayMs: 0, framing }], units: [description] },
      { dictionaries },
    );
    port = (await plant.listen()).get('one') ?? 0;
  });
  afterAll(() => plant.close());

  const unit = (): SimUnit => plant.units.get(SERIAL) as SimUnit;
  const address = (meaning: string): number =>
    findMeaning(dictionary, meaningOf(meaning))?.register?.address ?? 0;

  beforeEach(() => {
    unit().serial = SERIAL;
    unit().setMischief({
      silent: false,
      extraDelayMs: 0,
      breakAfter: 0,
      refuse: [],
      corrupt: null,
      swap: null,
    });
  });

  async function read(mischief: Partial<Mischief> = {}, control: Partial<ReadControl> = {}) {
    unit().setMischief(mischief);
    const line = new ModbusLine({ host: '127.0.0.1', port, framing, ...TIMING });
    const usual = { progress: () => undefined, stopped: () => false, ...control };
    const answer = await readUnit(line, dictionary, facts, { address: 1, serial: SERIAL }, usual);
    line.close();
    return { answer, requests: line.requests };
  }

  describe('reading a whole unit', () => {
    it('gives every parameter: settings in the set, what changes by itself aside', async () => {
      const { answer } = await read();
      if (!answer.ok) throw new Error(answer.fault.code);
      const { set, aside, identity } = answer.value;
      expect(set.readings.size + aside.size).toBe(dictionary.parameters.length);
      expect([...set.readings.values()].every((reading) => typeof reading === 'number')).toBe(true);
      expect(aside.get(findMeaning(dictionary, meaningOf('unit.serial'))?.code as never)).toBe(SERIAL);
      expect(identity).toEqual({
        model: 640,
        rating: 'HN64-15',
        ratingNumber: 15,
        firmware: '2.07',
        serial: SERIAL,
        wordOrder: 'high-first',
      });
    });

    it('tells its progress request by request', async () => {
      const seen: string[] = [];
      const { requests } = await read({}, { progress: (done, total) => seen.push(`${done}/${total}`) });
      expect(seen).toEqual(Array.from({ length: requests }, (_, at) => `${at + 1}/${requests}`));
    });

    it('keeps refused registers as unreadable and everything else as read', async () => {
      const meanings = ['ramp.up', 'motor.statorResistance', 'loop.wake'];
      const { answer } = await read({ refuse: meanings.map(address) });
      if (!answer.ok) throw new Error(answer.fault.code);
      const gaps = [...answer.value.set.readings].filter(([, reading]) => typeof reading === 'object');
      expect(gaps.map(([code]) => code).sort()).toEqual(
        meanings.map((meaning) => findMeaning(dictionary, meaningOf(meaning))?.code).sort(),
      );
      expect(gaps.every(([, reading]) => (reading as { unreadable: string }).unreadable === 'refused')).toBe(
        true,
      );
    });

    it('reads the right values when the unit holds others than its defaults', async () => {
      const code = findMeaning(dictionary, meaningOf('trim.weight'))?.code ?? '';
      unit().memory.force(code, -333);
      const { answer } = await read();
      expect(answer.ok && answer.value.set.readings.get(code as never)).toBe(-333);
    });
  });

  describe('what goes wrong on a line has a name of its own', () => {
    it.each<[string, Partial<Mischief>, string]>([
      ['a unit that is off', { silent: true }, 'no-answer'],
      ['a unit that answers after its time', { extraDelayMs: 300 }, 'late'],
      // The connection of RTU frames is given up long before, on a slow machine, too.
      [
        'a unit that answers long after its time',
        { extraDelayMs: framing === 'tcp' ? 500 : 2000 },
        framing === 'tcp' ? 'late' : 'no-answer',
      ],
      ['a connection that breaks off at once', { breakAfter: 1 }, 'broke-off'],
      ['a connection that breaks off half-way', { breakAfter: 4 }, 'broke-off'],
      ['an answer with fewer registers', { corrupt: 'short' }, 'wrong-answer'],
      ['an answer to another request', { corrupt: 'transaction' }, 'wrong-answer'],
      ['an answer with another function', { corrupt: 'function' }, 'wrong-answer'],
      ['noise', { corrupt: 'noise' }, 'wrong-answer'],
      ['a unit that is swapped in the middle', { swap: { after: 2, serial: 77 } }, 'identity-changed'],
    ])('%s', async (_, mischief, code) => {
      const { answer } = await read(mischief);
      if (answer.ok) throw new Error('was read');
      expect(answer.fault.code).toBe(code);
      expect(describeFault(answer.fault, NAME)).toMatch(/KL1-RD-01.*Nothing was kept\.$/);
      expect(outcomeOf(answer.fault)).toBe(code);
    });

    it('another serial number, before anything else is read', async () => {
      unit().serial = 99;
      const { answer, requests } = await read();
      expect(answer).toEqual({ ok: false, fault: { code: 'other-serial', found: 99 } });
      expect(requests).toBe(1);
    });

    it('another model', async () => {
      const other = {
        ...facts,
        identity: { ...facts.identity, model: { register: MODEL, value: 999 } },
      };
      const line = new ModbusLine({ host: '127.0.0.1', port, framing, ...TIMING });
      const control = { progress: () => undefined, stopped: () => false };
      const answer = await readUnit(line, dictionary, other, { address: 1, serial: SERIAL }, control);
      line.close();
      expect(answer).toEqual({ ok: false, fault: { code: 'other-model', found: 640 } });
    });

    it('an address behind the gateway where nobody is', async () => {
      const line = new ModbusLine({ host: '127.0.0.1', port, framing, ...TIMING });
      expect(await line.read(200, 1024, 1)).toMatchObject({ ok: false, fault: { code: 'no-answer' } });
      line.close();
    });

    it('a gateway that is not there', async () => {
      const line = new ModbusLine({ host: '127.0.0.1', port: 1, ...TIMING });
      const answer = await line.read(1, 1024, 1);
      expect(answer).toEqual({ ok: false, fault: { code: 'no-connection', where: '127.0.0.1:1' } });
    });

    it('an identity register that the unit does not have', async () => {
      const register = facts.identity.serial?.register ?? 0;
      const { answer } = await read({ refuse: [register, register + 1] });
      if (answer.ok) throw new Error('was read');
      expect(answer.fault).toEqual({ code: 'no-identity', register });
      expect(describeFault(answer.fault, NAME)).toMatch(/has no register \d+, in which HN64 tells who it is/);
    });

    it('nothing at a model that tells no serial number: it is read, and nobody writes to it', async () => {
      const untold = { ...facts, identity: { ...facts.identity, serial: null } };
      const line = new ModbusLine({ host: '127.0.0.1', port, framing, ...TIMING });
      const control = { progress: () => undefined, stopped: () => false };
      const answer = await readUnit(line, dictionary, untold, { address: 1, serial: 5 }, control);
      expect(answer.ok && answer.value.identity.serial).toBeNull();
      const nobody = { ...dictionary, line: { ...untold, status: null } };
      const writer = new UnitWriter({ line, address: 1, serial: 5, dictionary: nobody });
      expect(await writer.objection('KL1-RD-01')).toMatch(
        /does not tell in which register its serial number stands, nor which bit says that it is running/,
      );
      line.close();
    });

    it('somebody who wants it to stop', async () => {
      let done = 0;
      const { answer, requests } = await read({}, { progress: () => (done += 1), stopped: () => done >= 2 });
      expect(answer).toEqual({ ok: false, fault: { code: 'stopped' } });
      expect(requests).toBe(2);
    });
  });

  describe('a line', () => {
    it('goes on after a lost answer, without taking the late one for the next', async () => {
      const line = new ModbusLine({ host: '127.0.0.1', port, framing, ...TIMING });
      unit().setMischief({ extraDelayMs: 250 });
      const first = await line.read(1, address('ramp.up'), 1);
      unit().setMischief({ extraDelayMs: 0 });
      unit().memory.force(findMeaning(dictionary, meaningOf('ramp.down'))?.code ?? '', 4321);
      const second = await line.read(1, address('ramp.down'), 1);
      line.close();
      expect(first.ok).toBe(false);
      expect(second).toEqual({ ok: true, value: [4321] });
    });

    it('stays right beyond the 256 transactions after which the library counts anew', async () => {
      const line = new ModbusLine({ host: '127.0.0.1', port, framing, ...TIMING });
      for (let round = 0; round < 300; round += 1) {
        const answer = await line.read(1, MODEL, 1);
        expect([round, answer]).toEqual([round, { ok: true, value: [640] }]);
      }
      unit().setMischief({ corrupt: 'transaction' });
      expect(await line.read(1, MODEL, 1)).toMatchObject({
        fault: { code: 'wrong-answer' },
      });
      line.close();
    });

    it('rests between an answer and the next request for as long as it is told', async () => {
      const line = new ModbusLine({ host: '127.0.0.1', port, framing, ...TIMING, pauseMs: 40 });
      const began = performance.now();
      for (let round = 0; round < 4; round += 1) expect((await line.read(1, MODEL, 1)).ok).toBe(true);
      line.close();
      expect(performance.now() - began).toBeGreaterThanOrEqual(3 * 40 - 5);
    });

    it('reads no more registers at once than it is told, and the same set', async () => {
      const whole = await read();
      const line = new ModbusLine({ host: '127.0.0.1', port, framing, ...TIMING, largestRead: 7 });
      const asked: number[] = [];
      const spy = Object.assign(Object.create(line) as ModbusLine, {
        read: (at: number, register: number, count: number) => {
          asked.push(count);
          return line.read(at, register, count);
        },
      });
      const control = { progress: () => undefined, stopped: () => false };
      const pieces = await readUnit(spy, dictionary, facts, { address: 1, serial: SERIAL }, control);
      line.close();
      if (!pieces.ok || !whole.answer.ok) throw new Error('was not read');
      expect(Math.max(...asked)).toBeLessThanOrEqual(7);
      expect(pieces.value.set).toEqual(whole.answer.value.set);
    });

    it('names the refusals of a write', async () => {
      const line = new ModbusLine({ host: '127.0.0.1', port, framing, ...TIMING });
      const refused = async (register: number, value: number) => {
        const answer = await line.write(1, register, [value]);
        return answer.ok ? 'taken' : answer.fault;
      };
      expect(await refused(address('ramp.up'), 60_001)).toEqual({ code: 'refused', exception: 'value' });
      expect(await refused(address('monitor.current'), 1)).toEqual({ code: 'refused', exception: 'address' });
      expect(await refused(address('ramp.up'), 700)).toBe('taken');
      expect(await line.write(1, facts.save?.register ?? 0, [facts.save?.value ?? 0])).toEqual({
        ok: true,
        value: undefined,
      });
      expect(await line.read(1, address('ramp.up'), 1)).toEqual({ ok: false, fault: { code: 'busy' } });
      line.close();
    });
  });
});
