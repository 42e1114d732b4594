import { afterAll, afterEach, beforeAll, describe, expect, it } from '@jest/globals';
import type { Problem, WatchEvent } from '@drive-keep/api';
import { EventStream } from '../testing/event-stream.ts';
import { RunningPlant, until, type Caller } from '../testing/running-plant.ts';
import { UnitWatch } from './unit-watch.service.ts';

const TAG = 'KL1-RD-03';
const NEIGHBOUR = 'KL1-RD-04';

let plant: RunningPlant;
let viewer: Caller;
const open: EventStream<WatchEvent>[] = [];

beforeAll(async () => {
  plant = await RunningPlant.start();
  viewer = await plant.signIn('viewer');
});
afterAll(() => plant.stop());
afterEach(() => {
  for (const stream of open.splice(0)) stream.close();
});

async function look(tag = TAG): Promise<EventStream<WatchEvent>> {
  const stream = await EventStream.open<WatchEvent>(viewer, `positions/${tag}/now`);
  open.push(stream);
  return stream;
}
const samplesOf = ({ events }: EventStream<WatchEvent>) =>
  events.flatMap((event) => (event.kind === 'sample' ? [event] : []));
const settle = (ms: number) => new Promise((resolve) => setTimeout(resolve, ms));
const several = (stream: EventStream<WatchEvent>, count: number) =>
  until(() => (samplesOf(stream).length >= count ? samplesOf(stream) : undefined));
const silence = (stream: EventStream<WatchEvent>, text: string) =>
  until(() => stream.events.find((event) => event.kind === 'silent' && event.text.includes(text)));
const lineOf = (tag: string) => {
  const line = plant.plant.lines.get(plant.unit(tag).description.line);
  if (!line) throw new Error(tag);
  return line;
};

describe('watching a unit', () => {
  it('tells what it shows five times a second, with its own times, and what may be expected of it', async () => {
    const stream = await look();
    const running = () => samplesOf(stream).at(-1)?.values[plant.code('monitor.frequency')] === 3450;
    await until(() => (running() ? true : undefined));
    const samples = await several(stream, samplesOf(stream).length + 11);
    const [first, last] = [samples[0], samples.at(-1)];
    const spans = ((last?.at ?? 0) - (first?.at ?? 0)) / (samples.length - 1);
    expect(spans).toBeGreaterThan(150);
    expect(spans).toBeLessThan(400);
    expect(last?.values[plant.code('monitor.frequency')]).toBe(3450);
    expect([last?.runs, last?.faulty]).toEqual([true, false]);
    const told = stream.events.flatMap((event) => (event.kind === 'expected' ? [event.expected] : []));
    expect(told.at(-1)).toMatchObject({ agrees: true });
    expect(told.at(-1)?.outcomes[0]?.headline).toBe('Runs forward at 34.5 Hz');
    expect(told.at(-1)?.inputs.filter(({ odd }) => odd !== null)).toEqual([]);
  });

  it('agrees with a machine that stops because its hands let go, on its way down the ramp too', async () => {
    const stream = await look();
    await several(stream, 3);
    const unit = plant.unit(TAG);
    unit.runContact = false;
    const stands = await until(() =>
      samplesOf(stream).at(-1)?.runs === false && stream.events.at(-1) ? stream.events : undefined,
    );
    const last = stands.flatMap((event) => (event.kind === 'expected' ? [event.expected] : [])).at(-1);
    expect(last?.agrees).toBe(true);
    const odd = stands.filter((event) => event.kind === 'expected' && event.expected.agrees === false);
    expect(odd).toEqual([]);
    unit.runContact = true;
  });

  it('is one reader for all who look, and ends with the last of them', async () => {
    const streams = await Promise.all([look(), look(), look()]);
    await Promise.all(streams.map((each) => several(each, 5)));
    expect(plant.app.get(UnitWatch).count).toBe(1);
    const unit = plant.unit(TAG);
    const before = unit.asked;
    await settle(1000);
    // A look is a handful of requests, five times a second; a reader for each of the three would ask thrice as often.
    expect(unit.asked - before).toBeLessThan(2 * 5 * 6);
    for (const stream of open.splice(0)) stream.close();
    await until(() => (plant.app.get(UnitWatch).count === 0 ? true : undefined));
    await settle(300);
    const after = unit.asked;
    await settle(500);
    expect(unit.asked).toBe(after);
  });

  it('goes on between the requests of a backup of a neighbour on the same line', async () => {
    const stream = await look();
    await several(stream, 3);
    lineOf(NEIGHBOUR).delayMs = 60;
    const technician = await plant.signIn('technician');
    const from = samplesOf(stream).length;
    const began = Date.now();
    await plant.backUp(technician, NEIGHBOUR);
    const took = Date.now() - began;
    lineOf(NEIGHBOUR).delayMs = 0;
    const times = samplesOf(stream)
      .slice(from)
      .map(({ at }) => at);
    const gaps = times.slice(1).map((at, index) => at - (times[index] ?? 0));
    expect(took).toBeGreaterThan(600);
    expect(times.length).toBeGreaterThan(2);
    expect(Math.max(...gaps)).toBeLessThan(2000);
    expect(stream.events.filter(({ kind }) => kind === 'silent')).toEqual([]);
  });

  it('says within two seconds that a unit fell silent, and goes on when it is back', async () => {
    const stream = await look();
    await several(stream, 3);
    const unit = plant.unit(TAG);
    unit.switchSupply(false);
    const cut = Date.now();
    await silence(stream, 'has not answered yet');
    expect(Date.now() - cut).toBeLessThan(2200);
    await silence(stream, 'did not answer within 1 s. Is its supply on?');
    unit.switchSupply(true);
    const count = samplesOf(stream).length;
    await until(() => (samplesOf(stream).length > count ? true : undefined));
  });

  it('says that another unit answers, and shows nothing of it', async () => {
    const unit = plant.unit(TAG);
    const serial = unit.serial;
    unit.serial = 4_711;
    const stream = await look();
    await silence(stream, 'Serial number 4711 answers');
    expect(samplesOf(stream)).toEqual([]);
    unit.serial = serial;
  });

  it('is refused where there is no line', async () => {
    const { status, body } = await viewer.get<Problem>('positions/GL-BE-02/now');
    expect([status, body.detail]).toEqual([422, expect.stringContaining('has no line')]);
  });
});
