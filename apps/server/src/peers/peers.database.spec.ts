import { afterAll, beforeAll, describe, expect, it } from '@jest/globals';
import type {
  AcrossView,
  DifferenceOrigin,
  HistoryView,
  LiveEvent,
  ParameterHistoryView,
  PeerGroup,
  PeersView,
  Problem,
  ThreeWayView,
} from '@drive-keep/api';
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

describe('groups of peers', () => {
  it('are positions of one machine and one model, two at the least', async () => {
    const { body } = await technician.get<readonly PeerGroup[]>('peers/groups');
    expect(body.find(({ name }) => name === 'Kiln 1, Roller sections')?.tags).toEqual(SECTIONS);
    expect(
      body.filter(({ name }) => name.startsWith('Glazing, Glazing belts')).map(({ name }) => name),
    ).toEqual(['Glazing, Glazing belts (HN20)', 'Glazing, Glazing belts (HN64)']);
    expect(body.every(({ tags }) => tags.length > 1)).toBe(true);
  });
});

describe('three ways', () => {
  const ask = (query: string) =>
    technician.get<ThreeWayView & Problem>(`positions/KL1-RD-07/three-ways?${query}`);

  it('say what came since, what stood before, and when it came about', async () => {
    const { backups } = (await technician.get<HistoryView>('positions/KL1-RD-07/history')).body;
    const before = backups.findLast(({ hash }) => hash !== backups.at(-1)?.hash);
    const { body } = await ask(`before=backup:${before?.id ?? ''}`);
    expect(Object.fromEntries(body.rows.map(({ code, way }) => [code, way]))).toEqual({
      '01R': 'standing',
      '24R': 'standing',
      '12C': 'standing',
      '02P': 'new',
    });
    expect(body.rows.find(({ code }) => code === '02P')?.origin).toMatchObject({ reason: 'Motor replaced' });
    const mended = await ask(`before=newest&now=baseline`);
    expect(new Set(mended.body.rows.map(({ way }) => way))).toEqual(new Set(['mended']));
  });

  it('need the set before, and all of one model', async () => {
    expect((await ask('now=newest')).status).toBe(400);
    expect((await ask('before=backup:nonsense')).status).toBe(404);
  });
});

describe('two drives by meaning', () => {
  const across = (a: string, b: string) =>
    technician.get<AcrossView & Problem>(`across-models?a=${a}&b=${b}`);

  it('of different makers are compared in engineering units', async () => {
    const { body } = await across('GL-BE-03', 'GL-DI-01');
    const row = (meaning: string) => body.rows.find((each) => each.meaning === meaning);
    // 750 W on one, 0.75 kW on the other; the same current.
    expect([row('motor.ratedPower'), row('motor.ratedCurrent')]).toEqual([undefined, undefined]);
    expect(row('ramp.up')?.difference.kind).toBe('greater');
    expect(row('limit.current')?.a?.plain).toMatchObject({
      kind: 'number',
      unit: 'A',
      how: { conversion: 'reference' },
    });
    expect(body.terms).toMatchObject({ 'ramp.up': 'acceleration time' });
    expect(body.same).toBeGreaterThan(20);
  });

  it('of the same model differ where their peers do', async () => {
    const { body } = await across('KL1-RD-03', 'KL1-RD-07');
    expect(body.rows.map(({ b }) => b?.holds[0]?.code)).toEqual(
      expect.arrayContaining(['01R', '24R', '12C', '02P']),
    );
    expect((await across('KL1-RD-03', 'NO-SUCH')).status).toBe(404);
  });
});

describe('one parameter over time', () => {
  it('is told for all peers, with what their baselines want', async () => {
    const { body } = await technician.get<readonly ParameterHistoryView[]>(
      `parameter-history?code=01R&positions=${SECTIONS.join(',')}`,
    );
    expect(body.map(({ tag }) => tag)).toEqual(SECTIONS);
    const seven = body[6];
    expect(seven?.steps.map(({ reading }) => reading)).toEqual([800, 2000]);
    expect(seven?.wanted.map(({ reading }) => reading)).toEqual([800, 800, 800]);
    const mixed = await technician.get<Problem>('parameter-history?code=01R&positions=KL1-RD-01,GL-PU-01');
    expect([mixed.status, mixed.body.detail]).toEqual([422, expect.stringContaining('of another model')]);
    expect((await technician.get('parameter-history?code=99X&positions=KL1-RD-01')).status).toBe(404);
  });
});

describe('a live reading', () => {
  async function live(tag: string, a = 'baseline'): Promise<readonly LiveEvent[]> {
    const text = await (await technician.raw(`positions/${tag}/live?a=${a}`)).text();
    return text
      .split('\n')
      .flatMap((line) => (line.startsWith('data: ') ? [JSON.parse(line.slice(6)) as LiveEvent] : []));
  }
  const codes = (events: readonly LiveEvent[]) =>
    events.flatMap((event) => (event.kind === 'rows' ? event.rows.map(({ code }) => code) : []));
  const backups = async (tag: string) =>
    (await technician.get<HistoryView>(`positions/${tag}/history`)).body.backups.length;

  it('shows what the unit holds this moment, row by row, and keeps nothing', async () => {
    const before = await backups('KL1-RD-02');
    plant.unit('KL1-RD-02').memory.force('01R', 1234);
    const events = await live('KL1-RD-02');
    expect(codes(events)).toEqual(['01R']);
    expect(events.filter(({ kind }) => kind === 'rows').length).toBeGreaterThan(1);
    expect(events.at(-1)).toMatchObject({ kind: 'end', ok: true });
    expect(await backups('KL1-RD-02')).toBe(before);
    plant.unit('KL1-RD-02').memory.force('01R', 800);
    expect(codes(await live('KL1-RD-02'))).toEqual([]);
  });

  it('says what stands in its way', async () => {
    expect((await live('KL1-RD-12')).at(-1)).toMatchObject({
      kind: 'end',
      ok: false,
      text: expect.stringContaining('did not answer within 1 s'),
    });
    expect((await live('KL1-RD-10')).at(-1)).toMatchObject({
      ok: false,
      text: expect.stringContaining('Was the unit swapped without a record?'),
    });
    const byHand = await technician.get<Problem>('positions/GL-BE-02/live');
    expect([byHand.status, byHand.body.detail]).toEqual([422, expect.stringContaining('has no line')]);
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
