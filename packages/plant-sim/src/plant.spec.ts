import { mkdtempSync, readFileSync, rmSync, writeFileSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { afterEach, beforeEach, describe, expect, it } from '@jest/globals';
import type { Dictionary, Parameter } from '@drive-keep/core/dictionary';
import { ControlPort, loadModels, Plant, type UnitDescription } from './index.ts';
import { RawClient } from './testing/raw-client.ts';

const dictionaries = loadModels(join(import.meta.dirname, '../../catalogue/models'));
const model = dictionaries.get('halvern-hn64@1') as Dictionary;

const parameter = (meaning: string): Parameter => {
  const found = model.parameters.find((each) => each.meaning === meaning);
  if (!found) throw new Error(meaning);
  return found;
};
const registerOf = (meaning: string): number => parameter(meaning).register?.address ?? 0;
const words = (value: number): [number, number] => [(value >> 8) & 0xff, value & 0xff];

const unit: UnitDescription = {
  line: 'one',
  address: 5,
  dictionary: model.id,
  rating: 'HN64-15',
  region: '50-hz',
  firmware: 207,
  serial: 6_401_137,
  values: { [parameter('ramp.up').code]: 800 },
};

let plant: Plant;
let client: RawClient;
let folder: string;

async function open(change: Partial<UnitDescription> = {}): Promise<void> {
  plant = new Plant(
    { mains: 427, lines: [{ id: 'one', port: 0, delayMs: 0 }], units: [{ ...unit, ...change }] },
    { dictionaries, stateFile: join(folder, 'memory.json') },
  );
  const ports = await plant.listen();
  client = await RawClient.open(ports.get('one') ?? 0);
}

async function close(): Promise<void> {
  client.close();
  await plant.close();
}

const read = (register: number, count = 1) => client.ask(5, [3, ...words(register), ...words(count)]);
const write = (register: number, value: number) => client.ask(5, [6, ...words(register), ...words(value)]);
const valueAt = async (register: number) => (await read(register)).readUInt16BE(2);
const sim = () => plant.units.get(unit.serial);

beforeEach(async () => {
  folder = mkdtempSync(join(tmpdir(), 'plant-'));
  await open();
});
afterEach(async () => {
  await close();
  rmSync(folder, { recursive: true });
});

describe('a simulated unit', () => {
  it('answers a read as the specification says', async () => {
    client.send([0x12, 0x34, 0, 0, 0, 6, 5, 3, ...words(registerOf('ramp.up')), 0, 1]);
    expect([...(await client.take(11))]).toEqual([0x12, 0x34, 0, 0, 0, 5, 5, 3, 2, ...words(800)]);
  });

  it('identifies itself with model, rating, firmware and a serial number of two words', async () => {
    const identity = model.line?.identity;
    const answer = await read(identity?.model?.register ?? 0, 5);
    const found = [2, 4, 6].map((at) => answer.readUInt16BE(at));
    expect(found).toEqual([identity?.model?.value, 15, 207]);
    expect(answer.readUInt32BE(8)).toBe(unit.serial);
  });

  it.each([
    ['a function that it does not have', [1, 0, 0, 0, 1], [0x81, 1]],
    ['no registers', [3, 4, 0, 0, 0], [0x83, 3]],
    ['126 registers', [3, 4, 0, 0, 126], [0x83, 3]],
    ['a reserved area', [3, ...words(1440), 0, 1], [0x83, 2]],
    ['registers beyond the last', [3, 0xff, 0xff, 0, 2], [0x83, 2]],
    ['a byte count that does not fit', [16, ...words(1088), 0, 1, 4, 0, 1, 0, 1], [0x90, 3]],
  ])('answers a request for %s with the right exception', async (_, pdu, answer) => {
    expect([...(await client.ask(5, pdu))]).toEqual(answer);
  });

  it('lets the gateway answer for an address where nobody is', async () => {
    expect([...(await client.ask(9, [3, 0, 0, 0, 1]))]).toEqual([0x83, 0x0b]);
  });

  it('closes a connection that does not speak Modbus', async () => {
    client.send(Buffer.from('GET / HTTP/1.1\r\n\r\n'));
    await client.take(1);
    expect(client.closed).toBe(true);
  });

  it('takes a write in range, refuses others, and keeps the old value then', async () => {
    const ramp = registerOf('ramp.up');
    expect([...(await write(ramp, 1200))]).toEqual([6, ...words(ramp), ...words(1200)]);
    expect([...(await write(ramp, 60_001))]).toEqual([0x86, 3]);
    expect([...(await write(registerOf('monitor.frequency'), 1))]).toEqual([0x86, 2]);
    expect([...(await write(registerOf('stop.mode'), 7))]).toEqual([0x86, 3]);
    expect(await valueAt(ramp)).toBe(1200);
  });

  it('takes 32-bit values only whole', async () => {
    const resistance = registerOf('motor.statorResistance');
    expect([...(await write(resistance, 1))]).toEqual([0x86, 2]);
    const whole = [16, ...words(resistance), 0, 2, 4, 0, 0, ...words(4711)];
    expect([...(await client.ask(5, whole))]).toEqual([16, ...words(resistance), 0, 2]);
    expect((await read(resistance, 2)).readUInt32BE(2)).toBe(4711);
  });

  it('stores negative values in two’s complement', async () => {
    const weight = registerOf('trim.weight');
    await write(weight, 0x1_0000 - 250);
    expect((await read(weight)).readInt16BE(2)).toBe(-250);
  });

  it('puts the command group back to default when the control method changes, and only then', async () => {
    const source = registerOf('speed.source');
    await write(source, 3);
    await write(registerOf('motor.controlMethod'), 0);
    expect(await valueAt(source)).toBe(3);
    await write(registerOf('motor.controlMethod'), 2);
    expect(await valueAt(source)).toBe(1);
    expect(await valueAt(registerOf('ramp.up'))).toBe(800);
  });

  it('refuses what needs a standstill while it runs, and says that it runs', async () => {
    const started = sim();
    if (started) started.runContact = true;
    sim()?.memory.force(parameter('command.powerUp').code, 1);
    sim()?.memory.recall();
    sim()?.powerCycle();
    const status = model.line?.status;
    await new Promise((resolve) => setTimeout(resolve, model.line?.restart?.busyMs));
    expect((await valueAt(status?.register ?? 0)) & 1).toBe(1);
    expect([...(await write(registerOf('motor.ratedCurrent'), 300))]).toEqual([0x86, 4]);
    expect([...(await write(registerOf('ramp.up'), 300))]).toHaveLength(5);
  });

  it('ignores the run contact in hand, as it is after a power cycle unless told otherwise', () => {
    const started = sim();
    if (started) started.runContact = true;
    expect(sim()?.running).toBe(false);
  });

  it('refuses every write but the code while it is locked', async () => {
    const lock = registerOf('unit.lock');
    await write(lock, 4321);
    expect([...(await write(registerOf('ramp.up'), 900))]).toEqual([0x86, 4]);
    await write(lock, 0);
    expect([...(await write(registerOf('ramp.up'), 900))]).toHaveLength(5);
  });

  it('loses what was not saved in a power cycle and keeps what was', async () => {
    const [up, down] = [registerOf('ramp.up'), registerOf('ramp.down')];
    const save = model.line?.save;
    await write(up, 1500);
    expect([...(await write(save?.register ?? 0, save?.value ?? 0))]).toHaveLength(5);
    expect([...(await read(up))]).toEqual([0x83, 6]);
    await new Promise((resolve) => setTimeout(resolve, save?.busyMs));
    await write(down, 1600);
    sim()?.memory.recall();
    expect([await valueAt(up), await valueAt(down)]).toEqual([1500, 1000]);
  });

  it('remembers what was saved when the whole plant is started again', async () => {
    await write(registerOf('ramp.up'), 1500);
    await write(model.line?.save?.register ?? 0, model.line?.save?.value ?? 0);
    expect(readFileSync(join(folder, 'memory.json'), 'utf8')).toContain('1500');
    await close();
    await open();
    expect(await valueAt(registerOf('ramp.up'))).toBe(1500);
  });

  it('knows its permanent memory from an older file, which had nothing else', async () => {
    const up = model.parameters.find(({ meaning }) => meaning === 'ramp.up')?.code ?? '';
    const [serial] = plant.units.keys();
    const values = plant.units.get(serial ?? 0)?.memory.snapshot();
    await close();
    writeFileSync(join(folder, 'memory.json'), JSON.stringify({ [serial ?? 0]: { ...values, [up]: 1700 } }));
    await open();
    expect(await valueAt(registerOf('ramp.up'))).toBe(1700);
  });

  it('follows its ramp and shows currents of the right size', async () => {
    const running = sim();
    if (!running) throw new Error('no unit');
    running.memory.force(parameter('ramp.up').code, 100);
    running.memory.force(parameter('preset.contact.1').code, 3000);
    running.memory.force(parameter('command.powerUp').code, 1);
    running.powerCycle();
    running.runContact = true;
    await new Promise((resolve) => setTimeout(resolve, model.line?.restart?.busyMs));
    expect(await valueAt(registerOf('monitor.frequency'))).toBe(3000);
    // Two pole pairs at 30 Hz, less the slip of a motor that bears two thirds of its torque.
    expect(await valueAt(registerOf('monitor.speed'))).toBeGreaterThan(840);
    expect(await valueAt(registerOf('monitor.speed'))).toBeLessThan(900);
    const current = await valueAt(registerOf('monitor.current'));
    expect(current).toBeGreaterThan(180);
    expect(current).toBeLessThan(360);
    expect(await valueAt(registerOf('monitor.busVoltage'))).toBe(604);
  });

  it('remembers the last faults', async () => {
    for (const fault of [3, 7]) sim()?.trip(fault);
    const active = model.line?.fault?.active ?? 0;
    expect([await valueAt(active), await valueAt(active + 1)]).toEqual([7, 3]);
  });
});

describe('mischief on a line', () => {
  const ask = () => read(registerOf('ramp.up'));

  it('pulls the plug', async () => {
    sim()?.setMischief({ silent: true });
    expect(await ask()).toHaveLength(0);
  });

  it('breaks off in the middle of an answer', async () => {
    sim()?.setMischief({ breakAfter: 2 });
    expect(await ask()).toHaveLength(4);
    client.send([0, 2, 0, 0, 0, 6, 5, 3, 4, 64, 0, 10]);
    const part = await client.take(29);
    expect(part.length).toBeGreaterThan(0);
    expect(part.length).toBeLessThan(29);
    expect(client.closed).toBe(true);
  });

  it('swaps the unit after so many requests', async () => {
    sim()?.setMischief({ swap: { after: 1, serial: 99 } });
    const serial = model.line?.identity.serial?.register ?? 0;
    expect((await read(serial, 2)).readUInt32BE(2)).toBe(unit.serial);
    expect((await read(serial, 2)).readUInt32BE(2)).toBe(99);
  });

  it('refuses registers that the manual has', async () => {
    sim()?.setMischief({ refuse: [registerOf('ramp.up')] });
    expect([...(await ask())]).toEqual([0x83, 2]);
  });

  it('answers late', async () => {
    sim()?.setMischief({ extraDelayMs: 120 });
    const begun = Date.now();
    expect(await ask()).toHaveLength(4);
    expect(Date.now() - begun).toBeGreaterThanOrEqual(115);
  });

  it.each(['short', 'transaction', 'function', 'noise'] as const)(
    'sends a broken answer: %s',
    async (corrupt) => {
      const good = [0, 1, 0, 0, 0, 5, 5, 3, 2, ...words(800)];
      sim()?.setMischief({ corrupt });
      client.send([0, 1, 0, 0, 0, 6, 5, 3, ...words(registerOf('ramp.up')), 0, 1]);
      const answer = await client.take(11, 100);
      expect(answer.length).toBeGreaterThan(6);
      expect([...answer]).not.toEqual(good);
    },
  );
});

describe('the control port', () => {
  let control: ControlPort;
  let url: string;

  beforeEach(async () => {
    control = new ControlPort(plant);
    url = `http://127.0.0.1:${await control.listen(0)}`;
  });
  afterEach(() => control.close());

  const change = (path: string, body: object, method = 'PATCH') =>
    fetch(`${url}${path}`, { method, body: JSON.stringify(body) });

  it('changes parameters behind everybody’s back, in both memories or only in the working one', async () => {
    const [up, down] = [parameter('ramp.up').code, parameter('ramp.down').code];
    await change(`/units/${unit.serial}`, { values: { [up]: 111 }, working: { [down]: 222 } });
    expect([await valueAt(registerOf('ramp.up')), await valueAt(registerOf('ramp.down'))]).toEqual([
      111, 222,
    ]);
    await change(`/units/${unit.serial}/power-cycle`, {}, 'POST');
    await new Promise((resolve) => setTimeout(resolve, model.line?.restart?.busyMs));
    expect([await valueAt(registerOf('ramp.up')), await valueAt(registerOf('ramp.down'))]).toEqual([
      111, 1000,
    ]);
  });

  it('works the devices at the terminals, and the registers say what came of it', async () => {
    await close();
    const set = (meaning: string, raw: number) => [parameter(meaning).code, raw] as const;
    const values = [set('command.powerUp', 1), set('command.startLock', 0), set('frequency.minimum', 800)];
    const contacts = [{ between: ['13', '14'] as const, opens: false }];
    const conductors = {
      ...{
        'wire 1': ['23', 'S1:14'] as const,
        'wire 2': ['S1:13', '20'] as const,
        'link 1': ['21', '22'] as const,
      },
      ...{ 'link 2': ['30', '31'] as const, 'link 3': ['32', '33'] as const },
    };
    const floor = {
      devices: [{ name: 'S1', kind: 'contact', contacts }],
      conductors,
      logic: 'sourcing' as const,
    };
    await open({ values: Object.fromEntries(values), floor });
    const running = async () => ((await valueAt(model.line?.status?.register ?? 0)) & 1) === 1;
    const at = new ControlPort(plant);
    const port = await at.listen(0);
    const patch = (body: object) =>
      fetch(`http://127.0.0.1:${port}/units/${unit.serial}`, { method: 'PATCH', body: JSON.stringify(body) });
    expect(await running()).toBe(false);
    expect(await (await patch({ devices: { S1: 1 } })).json()).toMatchObject({
      report: { runs: true, setpoint: 8 },
    });
    expect(await running()).toBe(true);
    // A parameter that is written over the line counts at once.
    await write(registerOf('command.source'), 0);
    await patch({ devices: { S1: 0 } });
    expect(await (await patch({ cut: { 'link 2': true } })).json()).toMatchObject({
      report: { locked: true },
    });
    expect((await patch({ key: 'dance' })).status).toBe(400);
    await at.close();
  });

  it('lists the units and refuses what it does not know', async () => {
    const listed = (await (await fetch(`${url}/units`)).json()) as { serial: number }[];
    expect(listed.map(({ serial }) => serial)).toEqual([unit.serial]);
    expect((await change('/units/1', {})).status).toBe(404);
    expect((await fetch(`${url}/units/${unit.serial}`, { method: 'PATCH', body: '{' })).status).toBe(400);
  });

  it('takes the supply away and gives it back: without it the unit is silent', async () => {
    const supply = (on: boolean) => change(`/units/${unit.serial}`, { supply: on });
    expect(await (await supply(false)).json()).toMatchObject({ supplied: false, running: false });
    expect(await read(registerOf('ramp.up'))).toHaveLength(0);
    expect(await (await supply(true)).json()).toMatchObject({ supplied: true });
  });

  it('serves the plant floor', async () => {
    const page = await fetch(`${url}/`);
    expect([page.status, page.headers.get('content-type')]).toEqual([200, 'text/html; charset=utf-8']);
    expect(await page.text()).toContain('<title>Plant floor</title>');
  });

  it('slows a line down', async () => {
    await change('/lines/one', { delayMs: 80 });
    const begun = Date.now();
    await read(registerOf('ramp.up'));
    expect(Date.now() - begun).toBeGreaterThanOrEqual(75);
  });
});
