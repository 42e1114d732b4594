import { afterAll, beforeAll, describe, expect, it } from '@jest/globals';
import type { MotorArrival, MotorView, PositionDetailView, Problem } from '@drive-keep/api';
import { RunningPlant, type Caller } from '../testing/running-plant.ts';

let plant: RunningPlant;
let engineer: Caller;
let technician: Caller;

beforeAll(async () => {
  plant = await RunningPlant.start();
  engineer = await plant.signIn('engineer');
  technician = await plant.signIn('technician');
});
afterAll(() => plant.stop());

const library = async () => (await technician.get<readonly MotorView[]>('motors')).body;
const arrivals = async () => (await technician.get<readonly MotorArrival[]>('motor-arrivals')).body;
const named = async (name: string) => (await library()).find((motor) => motor.name === name);
const clashing = (arrival: MotorArrival | undefined) =>
  arrival?.fields.filter(({ clashes }) => clashes).map(({ key }) => key);
const body = (name: string, power: string, more = {}) => ({
  name,
  plate: { ratings: [{ voltage: '400', power, current: '3.6', ...more }], motor: {}, brake: {} },
});

describe('what backups tell of motors', () => {
  it('shows two motors under one name, and the fan that was reset for the wrong region, field by field', async () => {
    const all = await arrivals();
    expect(all.map(({ tag, kind }) => [tag, kind])).toEqual([
      ['GL-BE-04', 'other-numbers'],
      ['KL1-CA-01', 'other-numbers'],
    ]);
    expect(clashing(all[0])).toEqual(['resistance']);
    expect(clashing(all[1])).toEqual(['voltage', 'frequency', 'speed']);
    expect(all[0]?.against?.name).toBe('Belt gear motor 0.75 kW');
  });

  it('takes a motor in only under a name of its own, and it is the one of the position then', async () => {
    const same = await technician.post<Problem>('motor-arrivals/GL-BE-04', {
      name: 'belt gear motor 0.75 KW',
    });
    expect([same.status, same.body.detail]).toEqual([409, expect.stringContaining('a name of its own')]);
    const taken = await technician.post('motor-arrivals/GL-BE-04', {
      name: 'Belt gear motor 0.75 kW, rewound',
    });
    expect(taken.status).toBe(201);
    expect((await named('Belt gear motor 0.75 kW, rewound'))?.positions).toEqual(['GL-BE-04']);
    const { body: position } = await technician.get<PositionDetailView>('positions/GL-BE-04');
    expect(position.motor).toBe('Belt gear motor 0.75 kW, rewound, 400 V, 1.9 A, 1400 rpm');
    expect((await arrivals()).map(({ tag }) => tag)).toEqual(['KL1-CA-01']);
  });

  it('is left as it is until the set tells something else', async () => {
    const [fan] = await arrivals();
    await technician.post('motor-arrivals/KL1-CA-01/leave', { fingerprint: fan?.fingerprint });
    expect(await arrivals()).toEqual([]);
    plant.unit('KL1-CA-01').memory.force('FM03', 420);
    await plant.backUp(technician, 'KL1-CA-01');
    const [again] = await arrivals();
    expect([again?.tag, clashing(again)]).toEqual([
      'KL1-CA-01',
      ['voltage', 'frequency', 'current', 'speed'],
    ]);
  });

  it('finds a motor of the library by its numbers where the position has none', async () => {
    const roller = await named('Roller gear motor 1.5 kW');
    expect(roller?.positions).toHaveLength(12);
    await technician.ask('PUT', 'positions/KL1-RD-03/motor', { motor: null });
    const found = (await arrivals()).find(({ tag }) => tag === 'KL1-RD-03');
    expect([found?.kind, found?.against?.name]).toEqual(['known-numbers', 'Roller gear motor 1.5 kW']);
    await technician.ask('PUT', 'positions/KL1-RD-03/motor', { motor: roller?.id });
    expect((await arrivals()).map(({ tag }) => tag)).not.toContain('KL1-RD-03');
  });
});

describe('the library', () => {
  it('keeps plates in base units and shows them in those of the trade', async () => {
    const added = await technician.post<{ id: string }>(
      'motors',
      body('Test motor', '2 hp', { speed: '1410' }),
    );
    expect(added.status).toBe(201);
    const motor = await named('Test motor');
    expect(motor?.plate.ratings).toEqual([{ voltage: 400, power: 1491.4, current: 3.6, speed: 1410 }]);
    expect(motor?.text.ratings[0]?.['power']).toBe('1.4914 kW');
  });

  it('lets a plate start from another one, and names twins', async () => {
    const from = await named('Test motor');
    const twin = { ...body('Test motor 2', '2 hp'), startedFrom: from?.id };
    expect((await technician.post('motors', twin)).status).toBe(201);
    expect(await named('Test motor 2')).toMatchObject({ startedFrom: 'Test motor', twins: ['Test motor'] });
  });

  it('says everything that is wrong with a plate, and changes nothing', async () => {
    const before = await library();
    const wrong = await technician.post<Problem>('motors', {
      name: 'Wrong',
      plate: { ratings: [{ power: '1,5', current: 'three' }], motor: { poles: '-4' }, brake: {} },
    });
    expect([wrong.status, wrong.body.findings]).toEqual([
      422,
      [
        'Power: "1,5" has a comma. Write decimals with a point.',
        'Current: "three" is no number. Write it as on the plate, with or without its unit.',
        'Ratings: The plate has no rating: tell at least its power or current.',
        'Poles: "-4" is not above zero. Leave the field empty where the plate does not tell it.',
      ],
    ]);
    expect((await technician.post('motors', { ...body('x', '1'), colour: 'blue' })).status).toBe(400);
    expect(await library()).toEqual(before);
  });

  it('is changed by an engineer, and loses no motor that a position has', async () => {
    const motor = await named('Test motor');
    const path = `motors/${motor?.id ?? ''}`;
    const seen = (more: object) => ({ ...more, version: motor?.version });
    expect((await technician.ask('PUT', path, seen(body('Test motor', '3')))).status).toBe(403);
    expect((await engineer.ask('PUT', path, seen(body('Test motor 3', '3')))).status).toBe(200);
    const late = await engineer.ask<Problem>('PUT', path, seen(body('Test motor 4', '4')));
    expect([late.status, late.body.detail]).toEqual([409, expect.stringContaining('by somebody else')]);
    await technician.ask('PUT', 'positions/DR-CH-01/motor', { motor: motor?.id });
    const used = await engineer.ask<Problem>('DELETE', path);
    expect([used.status, used.body.detail]).toEqual([409, expect.stringContaining('the motor of DR-CH-01')]);
    await technician.ask('PUT', 'positions/DR-CH-01/motor', { motor: null });
    expect((await engineer.ask('DELETE', path)).status).toBe(200);
    expect((await engineer.ask('DELETE', path)).status).toBe(404);
  });
});
