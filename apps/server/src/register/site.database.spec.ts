import { afterAll, beforeAll, describe, expect, it } from '@jest/globals';
import type { PositionSiteView, Problem, SiteView } from '@drive-keep/api';
import { DataSource } from 'typeorm';
import { RunningPlant, type Caller } from '../testing/running-plant.ts';

let plant: RunningPlant;
let engineer: Caller;
let technician: Caller;
let viewer: Caller;
beforeAll(async () => {
  plant = await RunningPlant.start();
  [engineer, technician, viewer] = await Promise.all([
    plant.signIn('engineer'),
    plant.signIn('technician'),
    plant.signIn('viewer'),
  ]);
});
afterAll(() => plant.stop());

const site = async () => (await viewer.get<SiteView>('site')).body;
const supply = async (name: string) => {
  const found = (await site()).supplies.find((each) => each.name === name);
  if (!found) throw new Error(name);
  return found;
};
const measure = (id: string, body: object, by = technician) =>
  by.post<SiteView & Problem>(`site/supplies/${id}/measurements`, body);

describe('the site of the demo plant', () => {
  it('has two supplies, of which the kiln’s was measured far above its nominal voltage', async () => {
    const { supplies, cabinets } = await site();
    expect(
      supplies.map(({ name, nominalVolts, measurements }) => [name, nominalVolts, measurements[0]?.volts]),
    ).toEqual([
      ['Kiln supply', 400, 427],
      ['Main supply', 400, 404.5],
    ]);
    expect(supplies.reduce((sum, { positions }) => sum + positions, 0)).toBeGreaterThan(40);
    expect(cabinets.some(({ ambient }) => ambient === null)).toBe(true);
    const { body } = await viewer.get<PositionSiteView>('positions/KL1-RD-07/site');
    expect([body.supply?.name, body.cabinet?.ambient]).toEqual(['Kiln supply', 48]);
  });
});

describe('a measured voltage', () => {
  it('stands in a series with its time and person, and is never changed', async () => {
    const { id, measurements } = await supply('Main supply');
    expect((await measure(id, { volts: 399.5, note: 'by night' })).status).toBe(200);
    const after = (await supply('Main supply')).measurements;
    expect(after).toHaveLength(measurements.length + 1);
    expect(after[0]).toMatchObject({ volts: 399.5, person: 'T. Pellow', note: 'by night' });
    const source = plant.app.get(DataSource);
    await expect(source.query('update supply_measurement set volts = 1')).rejects.toThrow();
    await expect(source.query('delete from supply_measurement')).rejects.toThrow();
  });

  it('may be of yesterday, and not of tomorrow', async () => {
    const { id } = await supply('Kiln supply');
    const at = (days: number) => new Date(Date.now() + days * 86_400_000).toISOString();
    expect((await measure(id, { volts: 428, at: at(1) })).body.type).toBe('urn:drive-keep:not-yet');
    expect((await measure(id, { volts: 426, at: at(-1) })).status).toBe(200);
    // The newest by its own time counts, not the one that was typed last.
    await measure(id, { volts: 410, at: at(-400) });
    expect((await supply('Kiln supply')).measurements[0]?.volts).toBe(426);
  });

  it.each([
    ['no number', { volts: 'four hundred' }],
    ['more places than anybody measures', { volts: 400.05 }],
    ['next to nothing', { volts: 4 }],
    ['a time that is none', { volts: 400, at: 'yesterday' }],
  ])('is refused for %s', async (_, body) => {
    const { id, measurements } = await supply('Main supply');
    expect((await measure(id, body)).status).toBe(400);
    expect((await supply('Main supply')).measurements).toHaveLength(measurements.length);
  });

  it('is taken by technicians; the supply itself is the register’s', async () => {
    const { id } = await supply('Main supply');
    expect((await measure(id, { volts: 400 }, viewer)).status).toBe(403);
    const wish = { name: 'Third supply', nominalVolts: 400, frequency: 50 };
    expect((await technician.post('site/supplies', wish)).status).toBe(403);
  });
});

describe('supplies and cabinets', () => {
  it('have names of their own; the later of two people is told', async () => {
    const wish = { name: 'Third supply', nominalVolts: 480, frequency: 60 };
    const two = await Promise.all([1, 2].map(() => engineer.post<SiteView & Problem>('site/supplies', wish)));
    expect(two.map(({ status }) => status).sort()).toEqual([201, 409]);
    const { id, version } = await supply('Third supply');
    const change = (name: string) =>
      engineer.ask<Problem>('PUT', `site/supplies/${id}`, { ...wish, name, version });
    expect((await change('Press supply')).status).toBe(200);
    expect((await change('Other supply')).body.type).toBe('urn:drive-keep:changed-meanwhile');
    expect((await supply('Press supply')).version).toBe(version + 1);
  });

  it('are given to a position, and taken from it', async () => {
    const { supplies, cabinets } = await site();
    const place = (of: string | null, cabinet: string | null) =>
      engineer.ask<PositionSiteView & Problem>('PUT', 'positions/BP-AG-01/site', { supply: of, cabinet });
    const [other] = supplies.filter(({ name }) => name === 'Kiln supply');
    const placed = await place(other?.id ?? '', cabinets[0]?.id ?? '');
    expect([placed.body.supply?.name, placed.body.cabinet?.name]).toEqual(['Kiln supply', cabinets[0]?.name]);
    expect((await place(null, null)).body).toEqual({ supply: null, cabinet: null });
    expect((await place('00000000-0000-4000-8000-000000000000', null)).status).toBe(404);
  });
});
