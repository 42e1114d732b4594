// Searches a line for units, address by address, and matches what answers with the register. A search keeps nothing but
// what it found; taking a unit into the register is a change of its own.

import { randomUUID } from 'node:crypto';
import { Injectable, Logger } from '@nestjs/common';
import type { FoundUnitView, ScanView } from '@drive-keep/api';
import { DataSource, IsNull } from 'typeorm';
import type { Account } from '../access/account.entity.ts';
import { Dictionaries } from '../catalogue/dictionaries.service.ts';
import { JobRuns } from '../jobs/job-runs.service.ts';
import { UNTOLD } from '../lines/identity.ts';
import type { DriveLine } from '../lines/drive-line.ts';
import { Lines } from '../lines/lines.service.ts';
import { Logbook } from '../logbook/logbook.service.ts';
import { notFound, ProblemException } from '../problems/problem.ts';
import { Line } from '../lines/line.entity.ts';
import { Unit } from '../register/unit.entity.ts';
import { LockConnections } from '../storage/lock-connections.ts';
import { isUuid } from '../storage/uuid.ts';
import { Scan } from './scan.entity.ts';
import { waysToTell, whoIsThere, type WhoIsThere } from './who-is-there.ts';

/** Most addresses of a line are empty: they are asked once, and not for as long as a unit that must be there. */
const ASK = { timeoutMs: 300, retries: 0 };
/** Of the patience of a line that is slow. */
const SHARE_OF_PATIENCE = 0.3;
/** Name of the lock that the process at work on a search holds. */
const scanLock = (id: string): string => `scan ${id}`;

@Injectable()
export class Scans {
  private readonly logger = new Logger('Scans');

  constructor(
    private readonly dataSource: DataSource,
    private readonly dictionaries: Dictionaries,
    private readonly lines: Lines,
    private readonly locks: LockConnections,
    private readonly runs: JobRuns,
    private readonly logbook: Logbook,
  ) {}

  /** A search whose process has died is ended with all other work that is left behind. */
  serve(): void {
    this.runs.whenSwept(() => this.giveUpDead());
  }

  async start(lineName: string, from: number, to: number, { person }: Account): Promise<ScanView> {
    if (from > to)
      throw new ProblemException(400, 'scan', `The first address (${from}) lies behind the last (${to}).`);
    const line = await this.dataSource.getRepository(Line).findOneBy({ name: lineName });
    if (!line) throw notFound(`The line ${lineName}`);
    await this.giveUpDead();
    const scans = this.dataSource.getRepository(Scan);
    // The lock first: whoever sees the search running and finds it free is right that its process has died.
    const id = randomUUID();
    const lock = await this.locks.take(scanLock(id));
    const inserted = await scans
      .createQueryBuilder()
      .insert()
      .values({ id, line, fromAddress: from, toAddress: to, state: 'running', startedBy: person })
      .orIgnore()
      .returning('id')
      .execute();
    if ((inserted.raw as unknown[]).length === 0) {
      await lock.release();
      const running = await scans.findOne({
        where: { line: { id: line.id }, state: 'running' },
        relations: { line: true },
      });
      const detail = `${lineName} is being searched by ${running?.startedBy ?? 'somebody'} already. Wait for its end.`;
      throw new ProblemException(409, 'scan-running', detail);
    }
    const text = `Searched ${lineName} for units, addresses ${from} to ${to}.`;
    await this.logbook.write({ person, action: 'line-searched', text });
    void this.run(id, line)
      .catch((error: unknown) => this.logger.error(String(error)))
      .finally(() => lock.release());
    return this.view(id);
  }

  async view(id: string): Promise<ScanView> {
    return scanView(await this.load(id));
  }

  async recent(): Promise<readonly ScanView[]> {
    await this.giveUpDead();
    const scans = await this.dataSource
      .getRepository(Scan)
      .find({ relations: { line: true }, order: { startedAt: 'DESC' }, take: 10 });
    return scans.map(scanView);
  }

  async stop(id: string): Promise<ScanView> {
    await this.load(id);
    await this.dataSource.getRepository(Scan).update({ id, state: 'running' }, { state: 'stopped' });
    return this.view(id);
  }

  private async load(id: string): Promise<Scan> {
    const scan = isUuid(id)
      ? await this.dataSource.getRepository(Scan).findOne({ where: { id }, relations: { line: true } })
      : null;
    if (!scan) throw notFound('This search');
    return scan;
  }

  private async run(id: string, line: Line): Promise<void> {
    await this.ask(id, line);
    await this.change(id, { state: 'done' });
  }

  /** The line is given back between two addresses: a backup does not wait for a whole search. */
  private async ask(id: string, line: Line): Promise<void> {
    const { fromAddress: from, toAddress: to } = await this.load(id);
    const ways = waysToTell(await this.dictionaries.everyVersion());
    const addresses = Array.from({ length: to - from + 1 }, (_, at) => from + at);
    const found: FoundUnitView[] = [];
    let over = false;
    const one = async (address: number, drive: DriveLine): Promise<void> => {
      if (over) return;
      const who = await whoIsThere(drive, address, ways);
      if (who.kind === 'fault' && who.fault.code === 'no-connection') {
        over = true;
        const text = `The gateway at ${who.fault.where} does not accept a connection. Is it switched on?`;
        return void (await this.change(id, { state: 'stopped', text }));
      }
      const view = again(who, address, found) ?? (await this.match(line, address, who));
      if (view) found.push(view);
      if (found.filter((each) => each.found === 'again').length >= ENOUGH_ALIKE) {
        over = true;
        await this.change(id, { asked: address - from + 1, units: found });
        return void (await this.change(id, { state: 'stopped', text: ALIKE }));
      }
      over = !(await this.change(id, { asked: address - from + 1, units: found }));
    };
    const timeoutMs = Math.max(ASK.timeoutMs, line.timeoutMs * SHARE_OF_PATIENCE);
    await this.lines.forEach(line, 'look', addresses, one, { ...ASK, timeoutMs });
  }

  /** False where the search was ended meanwhile. */
  private async change(id: string, change: Partial<Scan>): Promise<boolean> {
    const changed = await this.dataSource.getRepository(Scan).update({ id, state: 'running' }, change);
    return changed.affected === 1;
  }

  /** What answers at an address against what the register has there; nothing for an empty address. */
  private async match(line: Line, address: number, who: WhoIsThere): Promise<FoundUnitView | undefined> {
    const units = this.dataSource.getRepository(Unit);
    const registered = await units.findOne({
      where: { line: { id: line.id }, lineAddress: address, removedAt: IsNull() },
      relations: { position: true },
    });
    const tag = registered?.position.tag ?? null;
    const nothing = { address, tag, dictionary: null, model: '', rating: null, firmware: '', serial: null };
    if (who.kind === 'silent') {
      if (tag === null) return undefined;
      return {
        ...nothing,
        found: 'silent',
        text: `${tag} is registered here and does not answer. Is its supply on?`,
      };
    }
    if (who.kind !== 'unit') {
      const text =
        who.kind === 'fault'
          ? `No usable answer (${who.fault.code.replaceAll('-', ' ')}). Check the cable and the gateway.`
          : 'Something answers that is no known model. Bring its dictionary under Models; a model that tells no number of its own is put into the register by hand.';
      return { ...nothing, found: 'unknown-model', text };
    }
    const { dictionary, identity } = who;
    const { serial, rating, firmware } = identity;
    const elsewhere =
      serial === null
        ? null
        : await units.findOne({ where: { serial, removedAt: IsNull() }, relations: { position: true } });
    return {
      ...{ address, tag, rating, firmware, serial },
      dictionary: dictionary.id,
      model: `${dictionary.maker} ${dictionary.name}`,
      ...(serial === null ? untold(registered) : verdict(registered, elsewhere, serial)),
    };
  }

  /** A search whose process has died says so and makes room for the next one. */
  private async giveUpDead(): Promise<void> {
    const running = await this.dataSource.getRepository(Scan).findBy({ state: 'running' });
    for (const { id } of running) {
      await this.dataSource.transaction(async (manager) => {
        const [lock]: { free: boolean }[] = await manager.query(
          `select pg_try_advisory_xact_lock(hashtextextended($1, 0)) as free`,
          [scanLock(id)],
        );
        if (lock?.free) await manager.update(Scan, { id, state: 'running' }, { state: 'interrupted' });
      });
    }
  }
}

/** So many addresses with one and the same unit: the rest of them would be it, too. */
const ENOUGH_ALIKE = 3;
const ALIKE =
  'The same unit answers at every address: this gateway, or a drive with a socket of its own, does not look at the address. Register it once, with the address that its manual names.';

/** The unit that has answered at another address before. */
function again(
  who: WhoIsThere,
  address: number,
  before: readonly FoundUnitView[],
): FoundUnitView | undefined {
  if (who.kind !== 'unit' || who.identity.serial === null) return undefined;
  const first = before.find(({ serial }) => serial === who.identity.serial);
  if (!first) return undefined;
  const text = `Serial number ${first.serial} has answered at address ${first.address} already.`;
  return { ...first, address, tag: null, found: 'again', text };
}

function untold(registered: Unit | null): Pick<FoundUnitView, 'found' | 'text'> {
  return registered
    ? { found: 'known', text: `Registered here. ${UNTOLD}` }
    : { found: 'unknown', text: `Not in the register. ${UNTOLD}` };
}

function verdict(
  registered: Unit | null,
  elsewhere: Unit | null,
  serial: number,
): Pick<FoundUnitView, 'found' | 'text'> {
  if (registered && registered.serial === serial) return { found: 'known', text: 'As registered.' };
  const where = elsewhere ? ` It is registered at ${elsewhere.position.tag}.` : '';
  if (registered) {
    const text = `${registered.position.tag} is registered here with serial number ${registered.serial}.${where} Swapped without a record?`;
    return { found: 'other-serial', text };
  }
  if (elsewhere) {
    const text = `Registered at ${elsewhere.position.tag} with another address. Moved without a record?`;
    return { found: 'elsewhere', text };
  }
  return { found: 'unknown', text: 'Not in the register.' };
}

const scanView = (scan: Scan): ScanView => ({
  id: scan.id,
  line: scan.line.name,
  from: scan.fromAddress,
  to: scan.toAddress,
  state: scan.state,
  startedBy: scan.startedBy,
  startedAt: scan.startedAt.toISOString(),
  asked: scan.asked,
  text: scan.text,
  units: scan.units,
});
