import { afterAll, beforeAll, describe, expect, it } from '@jest/globals';
import type { LineTrial, LineView, Problem, ScanView } from '@drive-keep/api';
import { loadModels, Plant, type SimUnit } from '@drive-keep/plant-sim';
import { MODELS_FOLDER, RunningPlant, until, type Caller } from '../testing/running-plant.ts';

let plant: RunningPlant;
let engineer: Caller;
let technician: Caller;
/** Two gateways that the plant has bought: one passes RTU frames through, one does not look at addresses. */
let bought: Plant;
let ports: ReadonlyMap<string, number>;

const SETTINGS = { framing: 'tcp', timeoutMs: 200, retries: 0, pauseMs: 0, largestRead: 125 } as const;
const NEW_UNIT = {
  ...{ dictionary: 'halvern-hn64@1', rating: 'HN64-15', region: '50-hz', firmware: 207, values: {} },
};
const local = (name: string, more: object = {}) => ({
  ...{ name, host: '127.0.0.1', port: ports.get(name) },
  ...SETTINGS,
  ...more,
});

beforeAll(async () => {
  plant = await RunningPlant.start();
  engineer = await plant.signIn('engineer');
  technician = await plant.signIn('technician');
  bought = new Plant(
    {
      mains: 400,
      lines: [
        { id: 'frames', port: 0, delayMs: 1, framing: 'rtu' },
        { id: 'alike', port: 0, delayMs: 0 },
      ],
      units: [
        { ...NEW_UNIT, line: 'frames', address: 3, serial: 7_000_001 },
        { ...NEW_UNIT, line: 'alike', address: 1, serial: 7_000_002 },
      ],
    },
    { dictionaries: loadModels(MODELS_FOLDER) },
  );
  ports = await bought.listen();
  const one = bought.units.get(7_000_002) as SimUnit;
  for (let address = 2; address <= 40; address += 1) bought.lines.get('alike')?.add(address, one);
});
afterAll(async () => {
  await plant.stop();
  await bought.close();
});

const add = (line: object) => engineer.post<LineView & Problem>('lines', line);
const attempt = async (line: object): Promise<LineTrial> => {
  return (await technician.post<LineTrial>('lines/try', { ...line, name: undefined })).body;
};

async function search(line: string, from: number, to: number): Promise<ScanView> {
  const { body } = await technician.post<ScanView>('scans', { line, from, to });
  return until(async () => {
    const scan = (await technician.get<ScanView>(`scans/${body.id}`)).body;
    return scan.state === 'running' ? undefined : scan;
  });
}

describe('trying a line', () => {
  it('says who answers and how fast, and that the other frames would be right', async () => {
    const right = await attempt(local('frames', { framing: 'rtu' }));
    expect(right).toMatchObject({ connects: true, answering: [3], attention: 'plain' });
    expect(right.text).toMatch(/^Answers in \d+ ms; 1 unit found at 3 \(16 addresses asked\)\.$/);
    const wrong = await attempt(local('frames'));
    expect(wrong).toMatchObject({ connects: true, answering: [], attention: 'look' });
    // Its unit is not among the first three, which are asked with the other frames.
    expect(wrong.text).toMatch(/nobody answers at 1 to 16/);
  }, 60_000);

  it('names a gateway that answers for every address, and nothing that is not there', async () => {
    expect((await attempt(local('alike'))).text).toMatch(/at every address alike \(16 were asked\)/);
    const nowhere = await attempt({ ...local('alike'), port: 1 });
    expect(nowhere).toMatchObject({ connects: false, attention: 'stop', asked: [] });
    expect(nowhere.text).toMatch(/^Nothing accepts a connection at 127\.0\.0\.1:1\./);
  });

  it('of a line in use asks its units and names those that are silent', async () => {
    const { body } = await engineer.get<readonly LineView[]>('lines');
    const line = body.find(({ name }) => name === 'gateway-3');
    const { host = '', port = 0 } = line ?? {};
    const trial = await attempt({ name: '', ...SETTINGS, host, port });
    expect(trial.text).toMatch(/Registered but silent: 12\.$/);
  });
});

describe('a line of one’s own', () => {
  it('is added, searched, and a unit on it is kept over RTU frames', async () => {
    expect((await add(local('frames', { framing: 'rtu', pauseMs: 2, largestRead: 40 }))).status).toBe(201);
    const scan = await search('frames', 1, 5);
    expect(scan.units).toMatchObject([{ address: 3, found: 'unknown', serial: 7_000_001, firmware: '2.07' }]);
    const position = {
      ...{ area: 'New hall', machine: 'Fan', tag: 'NH-FN-01', duty: 'Fan', criticality: 'low', motor: '' },
      ...{ dictionary: 'halvern-hn64@1', rating: 'HN64-15', region: '50-hz', serial: 7_000_001 },
      ...{ firmware: '2.07', line: 'frames', lineAddress: 3 },
    };
    expect((await engineer.post('positions', position)).status).toBe(201);
    const job = await plant.backUp(technician, 'NH-FN-01');
    expect(job.items[0]?.outcome).toBe('kept');
  });

  it('is not added twice, nor a second one to the same gateway', async () => {
    const name = await add({ ...local('frames'), port: 4000 });
    expect([name.status, name.body.detail]).toEqual([409, expect.stringContaining('a line frames already')]);
    const gateway = await add({ ...local('frames'), name: 'frames again' });
    expect([gateway.status, gateway.body.detail]).toEqual([
      409,
      expect.stringContaining('frames leads to 127.0.0.1:'),
    ]);
  });

  it('is retired when nothing is on it any more, and a unit cannot be put on it then', async () => {
    const { body: line } = await add(local('alike'));
    const busy = (await engineer.get<readonly LineView[]>('lines')).body.find(({ units }) => units > 5);
    const refused = await engineer.post<Problem>(`lines/${busy?.id ?? ''}/retire`, {
      version: busy?.version,
    });
    expect([refused.status, refused.body.detail]).toEqual([
      409,
      expect.stringMatching(/still .*and \d+ more/),
    ]);
    const retired = await engineer.post<LineView>(`lines/${line.id}/retire`, { version: line.version });
    expect(retired.body.retiredAt).not.toBeNull();
    const put = await engineer.post<Problem>('positions', {
      ...{ area: 'New hall', machine: 'Fan', tag: 'NH-FN-02', duty: 'Fan', criticality: 'low', motor: '' },
      ...{ dictionary: 'halvern-hn64@1', rating: 'HN64-15', region: '50-hz', serial: 7_000_002 },
      ...{ firmware: '2.07', line: 'alike', lineAddress: 1 },
    });
    expect(put.body.detail).toMatch(/retired/);
    const again = await engineer.ask<LineView>('PUT', `lines/${line.id}`, {
      ...local('alike'),
      version: retired.body.version,
    });
    expect([again.status, again.body.retiredAt]).toEqual([200, null]);
    const stale = await engineer.ask('PUT', `lines/${line.id}`, { ...local('alike'), version: line.version });
    expect(stale.status).toBe(409);
  });

  it('whose gateway does not look at addresses is searched no further than three times the same unit', async () => {
    const scan = await search('alike', 1, 40);
    expect(scan.units.map(({ address, found }) => [address, found])).toEqual([
      [1, 'unknown'],
      [2, 'again'],
      [3, 'again'],
      [4, 'again'],
    ]);
    expect([scan.state, scan.text]).toEqual(['stopped', expect.stringContaining('at every address')]);
  });

  it.each([
    ['an address with a scheme', { host: 'http://10.0.0.1' }],
    ['a port that is none', { port: 70_000 }],
    ['frames that nobody speaks', { framing: 'ascii' }],
    ['more registers than a request holds', { largestRead: 126 }],
    ['no name', { name: ' ' }],
  ])('is refused with %s', async (_, wrong) => {
    const { status, body } = await add({ ...local('frames'), name: 'other', port: 4001, ...wrong });
    expect(status).toBe(400);
    expect(body.detail).toMatch(new RegExp(Object.keys(wrong)[0] ?? ''));
  });
});
