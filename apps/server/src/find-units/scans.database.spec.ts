import { afterAll, beforeAll, describe, expect, it } from '@jest/globals';
import type { Problem, ScanView } from '@drive-keep/api';
import { DataSource } from 'typeorm';
import { RunningPlant, until, type Caller } from '../testing/running-plant.ts';

let plant: RunningPlant;
let technician: Caller;

beforeAll(async () => {
  plant = await RunningPlant.start();
  technician = await plant.signIn('technician');
});
afterAll(() => plant.stop());

const query = (text: string): Promise<unknown> => plant.app.get(DataSource).query(text);

async function search(line: string, from: number, to: number): Promise<ScanView> {
  const { body } = await technician.post<ScanView>('scans', { line, from, to });
  return ended(body.id);
}

const ended = (id: string): Promise<ScanView> =>
  until(async () => {
    const { body } = await technician.get<ScanView>(`scans/${id}`);
    return body.state === 'running' ? undefined : body;
  });

const found = ({ units }: ScanView) =>
  Object.fromEntries(units.map(({ address, found: kind, tag }) => [address, `${kind} ${tag ?? ''}`.trim()]));

describe('a search of a line', () => {
  it('knows every model of the plant by its identity and matches it with the register', async () => {
    const scan = await search('gateway-1', 1, 17);
    expect([scan.state, scan.asked]).toEqual(['done', 17]);
    expect(found(scan)).toEqual({
      1: 'known KL1-RD-01',
      2: 'known KL1-RD-02',
      3: 'known KL1-RD-03',
      4: 'known KL1-RD-04',
      14: 'known BP-AG-01',
      16: 'silent BP-AG-03',
    });
    expect(scan.units.find(({ address }) => address === 14)).toMatchObject({
      model: 'Halvern HN20',
      rating: 'HN20-22',
      serial: 204_113,
      firmware: '1.42',
    });
  });

  it('tells a unit that is not registered from one that is elsewhere and from another serial number', async () => {
    // Section 5 is registered with an address at which nothing is; section 6 is forgotten.
    await query(
      `update unit set line_address = 99 where serial = (select serial from unit u join position p on p.id = u.position_id where p.tag = 'KL1-RD-05')`,
    );
    await query(
      `update unit set removed_at = now() where position_id = (select id from position where tag = 'KL1-RD-06')`,
    );
    const units = found(await search('gateway-2', 5, 8));
    expect(units).toEqual({
      5: 'elsewhere',
      6: 'unknown',
      7: 'known KL1-RD-07',
      8: 'known KL1-RD-08',
    });
    expect(found(await search('gateway-3', 9, 12))).toMatchObject({ 10: 'other-serial KL1-RD-10' });
  });

  it('runs once per line, may be stopped, and gives the line to others in between', async () => {
    const gateway = plant.plant.lines.get('gateway-1');
    if (gateway) gateway.delayMs = 40;
    const { body } = await technician.post<ScanView>('scans', { line: 'gateway-1', from: 100, to: 247 });
    const second = await technician.post<Problem>('scans', { line: 'gateway-1', from: 1, to: 2 });
    expect([second.status, second.body.detail]).toEqual([
      409,
      expect.stringContaining('searched by T. Pellow'),
    ]);
    expect((await plant.backUp(technician, 'KL1-RD-01')).items[0]?.outcome).toBe('kept');
    await technician.post(`scans/${body.id}/stop`);
    const scan = await ended(body.id);
    expect(scan.state).toBe('stopped');
    expect(scan.asked).toBeLessThan(148);
    if (gateway) gateway.delayMs = 3;
  });

  it('of a gateway that is off says so at once', async () => {
    await query(`insert into line (name, host, port) values ('gateway-9', '127.0.0.1', 1)`);
    const scan = await search('gateway-9', 1, 247);
    expect([scan.state, scan.text]).toEqual([
      'stopped',
      expect.stringContaining('does not accept a connection'),
    ]);
  });

  it('whose process died is interrupted and leaves room for the next one', async () => {
    await query(
      `insert into scan (line_id, from_address, to_address, state, started_by) select id, 1, 9, 'running', 'X' from line where name = 'gateway-2'`,
    );
    expect((await search('gateway-2', 7, 7)).state).toBe('done');
    const rows = await query(`select state from scan where started_by = 'X'`);
    expect(rows).toEqual([{ state: 'interrupted' }]);
  });

  it('needs a line that exists and addresses that are some', async () => {
    const ask = (body: object) => technician.post('scans', body);
    expect((await ask({ line: 'gateway-77', from: 1, to: 2 })).status).toBe(404);
    expect((await ask({ line: 'gateway-1', from: 9, to: 2 })).status).toBe(400);
    expect((await ask({ line: 'gateway-1', from: 0, to: 2 })).status).toBe(400);
    const viewer = await plant.signIn('viewer');
    expect((await viewer.post('scans', { line: 'gateway-1', from: 1, to: 2 })).status).toBe(403);
  });
});
