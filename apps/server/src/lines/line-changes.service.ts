// Adds, tries, changes and retires lines. A gateway has one line: two would ask it at the same time and disturb each other.

import { Injectable } from '@nestjs/common';
import type { LineTrial, LineView } from '@drive-keep/api';
import { DataSource, IsNull, Not, type EntityManager } from 'typeorm';
import type { Account } from '../access/account.entity.ts';
import { Logbook } from '../logbook/logbook.service.ts';
import { Plant } from '../plant/plant.entity.ts';
import { notFound, ProblemException } from '../problems/problem.ts';
import { requireSameVersion } from '../problems/same-version.ts';
import { isUuid } from '../storage/uuid.ts';
import type { LineSettings } from './line-settings.ts';
import { COPY } from './line-text.ts';
import { tryLine } from './line-trial.ts';
import { LineTurns } from './line-turns.ts';
import { Line } from './line.entity.ts';

export type NamedLine = LineSettings & { readonly name: string };

/** Addresses of units and machine controllers that are on lines now. */
const ON_LINES = `
  select line_id, line_address as address, p.tag as who from unit u join position p on p.id = u.position_id
    where u.removed_at is null and u.line_id is not null
  union all select line_id, address, 'the controller of a machine' from machine_controller`;

@Injectable()
export class LineChanges {
  constructor(
    private readonly dataSource: DataSource,
    private readonly turns: LineTurns,
    private readonly logbook: Logbook,
  ) {}

  async views(): Promise<readonly LineView[]> {
    const lines = await this.dataSource.getRepository(Line).find({ order: { name: 'ASC' } });
    const counts: { line_id: string; units: string }[] = await this.dataSource.query(
      `select line_id, count(*) as units from (${ON_LINES}) on_lines group by 1`,
    );
    const units = new Map(counts.map((each) => [each.line_id, Number(each.units)]));
    return lines.map(({ retiredAt, ...line }) => ({
      ...line,
      units: units.get(line.id) ?? 0,
      retiredAt: retiredAt?.toISOString() ?? null,
    }));
  }

  async add(wish: NamedLine, { person }: Account): Promise<LineView> {
    const { id } = await this.alone(async (manager) => {
      await this.requireFree(manager, wish);
      const line = await manager.save(Line, manager.create(Line, { ...wish, retiredAt: null }));
      const text = `Added the line ${wish.name} (${describe(wish)}).`;
      await this.logbook.write({ person, action: 'line-added', text }, manager);
      return line;
    });
    return this.view(id);
  }

  async change(id: string, wish: NamedLine, version: number, { person }: Account): Promise<LineView> {
    await this.alone(async (manager) => {
      const line = await this.load(manager, id);
      requireSameVersion(line.version, version, `The line ${line.name}`);
      await this.requireFree(manager, wish, id);
      const before = describe(line);
      await manager.save(Line, Object.assign(line, wish, { retiredAt: null }));
      const text = `Changed the line ${wish.name} from ${before} to ${describe(wish)}.`;
      await this.logbook.write({ person, action: 'line-changed', text }, manager);
    });
    return this.view(id);
  }

  /** Its name stays with the units that were on it; it may be used again by changing it. */
  async retire(id: string, version: number, { person }: Account): Promise<LineView> {
    await this.alone(async (manager) => {
      const line = await this.load(manager, id);
      requireSameVersion(line.version, version, `The line ${line.name}`);
      const on: { who: string }[] = await manager.query(
        `select who from (${ON_LINES}) on_lines where line_id = $1 order by 1`,
        [id],
      );
      if (on.length > 0) {
        const who = on
          .slice(0, 5)
          .map((each) => each.who)
          .join(', ');
        const detail = `On ${line.name} ${on.length === 1 ? 'is' : 'are'} still ${who}${on.length > 5 ? ` and ${on.length - 5} more` : ''}. Put them on another line first, or retire their positions. Nothing was changed.`;
        throw new ProblemException(409, 'line-in-use', detail);
      }
      await manager.save(Line, Object.assign(line, { retiredAt: new Date() }));
      await this.logbook.write(
        { person, action: 'line-retired', text: `Retired the line ${line.name}.` },
        manager,
      );
    });
    return this.view(id);
  }

  /** Asks behind a gateway that may not be a line yet; where it is one, in its turn. */
  async try(settings: LineSettings): Promise<LineTrial> {
    if (await this.dataSource.getRepository(Plant).existsBy({ id: true, isCopy: true }))
      throw new ProblemException(409, 'copy', COPY);
    const { host, port } = settings;
    const line = await this.dataSource.getRepository(Line).findOneBy({ host, port, retiredAt: IsNull() });
    const on: { address: number }[] = line
      ? await this.dataSource.query(`select address from (${ON_LINES}) on_lines where line_id = $1`, [
          line.id,
        ])
      : [];
    const turn = line ? await this.turns.take(line.id, 'look') : undefined;
    try {
      return await tryLine(
        settings,
        on.map(({ address }) => address),
      );
    } finally {
      await turn?.release();
    }
  }

  private async view(id: string): Promise<LineView> {
    const view = (await this.views()).find((each) => each.id === id);
    if (!view) throw notFound('This line');
    return view;
  }

  private async load(manager: EntityManager, id: string): Promise<Line> {
    const line = isUuid(id) ? await manager.findOneBy(Line, { id }) : null;
    if (!line) throw notFound('This line');
    return line;
  }

  /** Two who change lines do it one after the other. */
  private alone<T>(work: (manager: EntityManager) => Promise<T>): Promise<T> {
    return this.dataSource.transaction(async (manager) => {
      await manager.query(`select pg_advisory_xact_lock(hashtextextended('lines', 0))`);
      return work(manager);
    });
  }

  private async requireFree(
    manager: EntityManager,
    { name, host, port }: NamedLine,
    own?: string,
  ): Promise<void> {
    const others = own === undefined ? {} : { id: Not(own) };
    if (await manager.existsBy(Line, { ...others, name }))
      throw new ProblemException(409, 'name-taken', `There is a line ${name} already. Nothing was changed.`);
    const same = await manager.findOneBy(Line, { ...others, host, port, retiredAt: IsNull() });
    if (!same) return;
    const detail = `${same.name} leads to ${host}:${port} already. A gateway has one line; the units behind it are told apart by their addresses. Nothing was changed.`;
    throw new ProblemException(409, 'gateway-taken', detail);
  }
}

const describe = ({ host, port, framing, timeoutMs, retries, pauseMs, largestRead }: LineSettings): string =>
  `${host}:${port}, ${framing === 'tcp' ? 'Modbus TCP' : 'RTU frames'}, ${timeoutMs} ms, ${retries} retries, pause ${pauseMs} ms, ${largestRead} registers`;
