// The control port of the simulated plant: a small HTTP interface for tests and people who want to turn a contact,
// pull a plug or change a value behind everybody's back. Loopback only.
//
//   GET   /                          the plant floor: a page on which a person works contacts, keys, wires and supplies
//   GET   /units                     all units with their state
//   PATCH /units/:serial             { runContact, mischief: {…}, serial, values: {code: raw}, working: {code: raw},
//                                      devices: {S1: 1}, cut: {"wire 3": true}, cross: ["wire 3", "wire 4"], key: "run",
//                                      settle: true, supply: false, surroundings: {uncoupled: true} }
//   POST  /units/:serial/power-cycle
//   POST  /units/:serial/trip        { fault: 7 }
//   POST  /units/:serial/swap        { dictionary, rating, serial, firmware }: another drive in its place
//   PATCH /lines/:id                 { delayMs }

import { createServer, type IncomingMessage, type Server, type ServerResponse } from 'node:http';
import type { AddressInfo } from 'node:net';
import { UNDISTURBED, type Surroundings } from './drive-train.ts';
import { FLOOR_PAGE } from './floor-page.ts';
import type { Mischief } from './mischief.ts';
import type { Plant, Spare } from './plant.ts';
import type { SimUnit } from './unit.ts';
import { KEYS, type Key } from './wired-unit.ts';

interface UnitChange {
  readonly runContact?: boolean;
  readonly serial?: number;
  readonly mischief?: Partial<Mischief>;
  readonly values?: Readonly<Record<string, number>>;
  readonly working?: Readonly<Record<string, number>>;
  /** Positions of what hangs on its terminals. */
  readonly devices?: Readonly<Record<string, number>>;
  readonly cut?: Readonly<Record<string, boolean>>;
  /** Two wires that change their terminals. */
  readonly cross?: readonly [string, string];
  readonly surroundings?: Partial<Surroundings>;
  readonly key?: Key;
  readonly settle?: boolean;
  readonly supply?: boolean;
}

export class ControlPort {
  private readonly server: Server;
  private readonly plant: Plant;

  constructor(plant: Plant) {
    this.plant = plant;
    this.server = createServer((request, response) => void this.serve(request, response));
  }

  async listen(port: number): Promise<number> {
    await new Promise<void>((resolve, reject) => {
      this.server.once('error', reject);
      this.server.listen(port, '127.0.0.1', resolve);
    });
    return (this.server.address() as AddressInfo).port;
  }

  async close(): Promise<void> {
    this.server.closeAllConnections();
    await new Promise<void>((resolve) => this.server.close(() => resolve()));
  }

  private async serve(request: IncomingMessage, response: ServerResponse): Promise<void> {
    try {
      if (request.method === 'GET' && request.url === '/') {
        response.writeHead(200, { 'content-type': 'text/html; charset=utf-8' });
        response.end(FLOOR_PAGE);
        return;
      }
      const answer = this.handle(request.method ?? '', request.url ?? '', await bodyOf(request));
      response.writeHead(answer === undefined ? 404 : 200, { 'content-type': 'application/json' });
      response.end(JSON.stringify(answer ?? { detail: 'no such unit, line or action' }));
    } catch (error) {
      response.writeHead(400, { 'content-type': 'application/json' });
      response.end(JSON.stringify({ detail: String(error) }));
    }
  }

  private handle(method: string, url: string, body: unknown): unknown {
    const [, kind, id = '', action] = url.split('/');
    if (method === 'GET' && kind === 'units') return [...this.plant.units.values()].map(describe);
    if (kind === 'lines') {
      const line = this.plant.lines.get(id);
      if (line) line.delayMs = (body as { delayMs: number }).delayMs;
      return line && {};
    }
    const unit = this.plant.units.get(Number(id));
    if (kind !== 'units' || !unit) return undefined;
    if (method === 'PATCH') change(unit, body as UnitChange);
    else if (action === 'power-cycle') unit.powerCycle();
    else if (action === 'trip') unit.trip((body as { fault: number }).fault);
    else if (action === 'swap') return describe(this.plant.swap(unit.serial, body as Spare));
    else return undefined;
    this.plant.keepState();
    return describe(unit);
  }
}

function change(unit: SimUnit, asked: UnitChange): void {
  const { runContact, serial, mischief, values, working, supply } = asked;
  if (supply !== undefined) unit.switchSupply(supply);
  if (asked.surroundings) unit.disturb(surroundingsIn(asked.surroundings));
  operate(unit, asked);
  if (runContact !== undefined) unit.runContact = runContact;
  if (serial !== undefined) unit.serial = serial;
  if (mischief) unit.setMischief(mischief);
  for (const [code, raw] of Object.entries(values ?? {})) unit.memory.force(code, raw);
  for (const [code, raw] of Object.entries(working ?? {})) unit.memory.forceWorking(code, raw);
}

function surroundingsIn(told: object): Partial<Surroundings> {
  for (const [name, is] of Object.entries(told))
    if (!(name in UNDISTURBED) || typeof is !== 'boolean')
      throw new Error(`${name} is none of ${Object.keys(UNDISTURBED).join(', ')}`);
  return told;
}

/** By hand, at the machine. */
function operate({ wired }: SimUnit, { devices = {}, cut = {}, cross, key, settle }: UnitChange): void {
  const asked =
    Object.keys({ ...devices, ...cut }).length > 0 ||
    cross !== undefined ||
    key !== undefined ||
    settle === true;
  if (!asked) return;
  if (!wired) throw new Error('this unit has no wiring');
  if (key !== undefined && !KEYS.includes(key)) throw new Error(`no key ${String(key)}`);
  for (const [name, to] of Object.entries(devices)) wired.work(name, to);
  for (const [name, broken] of Object.entries(cut)) wired.cut(name, broken);
  if (cross) wired.cross(...cross);
  if (key !== undefined) wired.press(key);
  if (settle) wired.settle();
}

const describe = (unit: SimUnit) => ({
  tag: unit.description.tag ?? null,
  dictionary: unit.description.dictionary,
  supplied: unit.supplied,
  serial: unit.serial,
  line: unit.description.line,
  address: unit.description.address,
  rating: unit.description.rating,
  running: unit.running,
  runContact: unit.runContact,
  hands: unit.description.hands !== undefined,
  mischief: unit.mischief,
  report: unit.wired?.report ?? null,
  floor: unit.wired?.floor.plan ?? null,
  devices: Object.fromEntries(unit.wired?.floor.positions ?? []),
  joined: unit.wired?.floor.joined ?? {},
  surroundings: unit.surroundings,
  seen: unit.seen,
  cut: [...(unit.wired?.floor.broken ?? [])],
  permanent: unit.memory.snapshot(),
});

async function bodyOf(request: IncomingMessage): Promise<unknown> {
  const chunks: Buffer[] = [];
  for await (const chunk of request) chunks.push(chunk as Buffer);
  const text = Buffer.concat(chunks).toString('utf8');
  return text === '' ? {} : JSON.parse(text);
}
