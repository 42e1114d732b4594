import { afterAll, beforeAll, describe, expect, it } from '@jest/globals';
import type { DifferenceOrigin, PeersView, Problem } from '@drive-keep/api';
import { RunningPlant, type Caller } from '../testing/running-plant.ts';

let plant: RunningPlant;
let technician: Caller;

beforeAll(async () => {
  plant = await RunningPlant.start();
  technician = await plant.signIn('technician');
});
afterAll(() => plant.stop());

const SECTIONS = Array.from({ length: 12 }, (_, at) => `KL1-RD-${String(at + 1).padStart(2, '0')}`);
const peers = (...tags: string[]) => technician.get<PeersView & Problem>(`peers?positions=${tags.join(',')}`);

describe('peers', () => {
  it('show section 7 as the odd one out in four parameters, and agreement folded away', async () => {
    const { body } = await peers(...SECTIONS);
    const odd = (tag: string) =>
      body.rows.filter((row) => row.odd.includes(SECTIONS.indexOf(tag))).map(({ code }) => code);
    expect(odd('KL1-RD-07')).toEqual(['01R', '24R', '12C', '02P']);
    expect(odd('KL1-RD-03')).toEqual([]);
    expect(body.rows.find(({ code }) => code === '01R')).toMatchObject({ usual: 800 });
    expect(body.agreed).toBeGreaterThan(150);
  });

  it('are of one model, and more than one', async () => {
    expect((await peers('KL1-RD-01')).status).toBe(400);
    const mixed = await peers('KL1-RD-01', 'GL-PU-01');
    expect([mixed.status, mixed.body.detail]).toEqual([
      422,
      expect.stringContaining('GL-PU-01 is of another model'),
    ]);
    expect((await peers('KL1-RD-01', 'NO-SUCH-01')).status).toBe(404);
  });
});

describe('the origin of a difference', () => {
  it('is the first backup since which it has been like this, with who and why', async () => {
    const { body } = await technician.get<readonly DifferenceOrigin[]>(
      'positions/KL1-RD-07/difference-origins',
    );
    const told = Object.fromEntries(
      body.map(({ code, by, reason, atSigning }) => [code, { by, reason, atSigning }]),
    );
    expect(told['02P']).toEqual({ by: 'T. Pellow', reason: 'Motor replaced', atSigning: false });
    expect(told['01R']).toMatchObject({ reason: 'Tiles slip at the start: longer ramp' });
    expect(Object.keys(told).sort()).toEqual(['01R', '02P', '12C', '24R']);
    // Nobody took a backup on the night shift: the next round found it.
    const night = await technician.get<readonly DifferenceOrigin[]>('positions/GL-PU-01/difference-origins');
    expect(night.body.map(({ by }) => by)).toEqual(['Nightly round', 'Nightly round']);
  });

  it('begins anew when the value was right in between', async () => {
    plant.unit('KL1-RD-07').memory.force('02P', 360);
    await plant.backUp(technician, 'KL1-RD-07');
    plant.unit('KL1-RD-07').memory.force('02P', 630);
    await plant.backUp(technician, 'KL1-RD-07');
    const { body } = await technician.get<readonly DifferenceOrigin[]>(
      'positions/KL1-RD-07/difference-origins',
    );
    expect(body.find(({ code }) => code === '02P')).toMatchObject({ by: 'T. Pellow', reason: 'Test' });
  });
});
