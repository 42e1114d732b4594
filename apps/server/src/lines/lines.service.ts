// The one way to a unit: waits for its line, opens the connection, does the work, gives both back. Nobody else opens a line.

import { Injectable } from '@nestjs/common';
import { DataSource, IsNull } from 'typeorm';
import { Plant } from '../plant/plant.entity.ts';
import { ProblemException } from '../problems/problem.ts';
import type { DriveLine } from './drive-line.ts';
import { LineGuests, type Look } from './line-guests.ts';
import { LineTurns, type LineTurn, type Purpose } from './line-turns.ts';
import { Line } from './line.entity.ts';
import type { LineTiming } from './line-settings.ts';
import { ModbusLine } from './modbus-line.ts';
import { SilentLine } from './silent-line.ts';
import { UnitAtLine, type UnitOnLine } from './unit-at-line.ts';

@Injectable()
export class Lines {
  /** Lines that somebody in this process has now, and lets others look at meanwhile. */
  private readonly hosts = new Map<string, LineGuests>();

  constructor(
    private readonly turns: LineTurns,
    private readonly dataSource: DataSource,
  ) {}

  /** All lines in use, by name. */
  all(): Promise<readonly Line[]> {
    return this.dataSource
      .getRepository(Line)
      .find({ where: { retiredAt: IsNull() }, order: { name: 'ASC' } });
  }

  private async open(line: Line, timing?: LineTiming): Promise<DriveLine> {
    const isCopy = await this.dataSource.getRepository(Plant).existsBy({ id: true, isCopy: true });
    return isCopy ? new SilentLine() : new ModbusLine({ ...settingsOf(line), ...timing });
  }

  async withUnit<T>(unit: UnitOnLine, purpose: Purpose, work: (at: UnitAtLine) => Promise<T>): Promise<T> {
    return this.withLine(unit.line, purpose, (drive, turn) => work(new UnitAtLine(unit, drive, turn)));
  }

  async withLine<T>(
    line: Line,
    purpose: Purpose,
    work: (drive: DriveLine, turn: LineTurn) => Promise<T>,
    timing?: LineTiming,
  ): Promise<T> {
    const turn = await this.turns.take(line.id, purpose);
    const drive = await this.open(line, timing);
    try {
      return await this.hosting(line, lets(purpose, timing), drive, (own) => work(own, turn));
    } finally {
      drive.close();
      await turn.release();
    }
  }

  /**
   * A request or two at a unit, for somebody who watches it: between the requests of whoever reads on this line now, or in a
   * turn of its own. It waits while somebody writes.
   */
  async look(line: Line, look: Look): Promise<void> {
    if (await this.hosts.get(line.id)?.visit(look)) return;
    await this.withLine(line, 'look', look);
  }

  /** Lets others look meanwhile, where they may. */
  private async hosting<T>(
    line: Line,
    mayLook: boolean,
    drive: DriveLine,
    work: (drive: DriveLine) => Promise<T>,
  ): Promise<T> {
    if (!mayLook) return work(drive);
    const guests = new LineGuests(drive);
    this.hosts.set(line.id, guests);
    try {
      return await work(guests.drive);
    } finally {
      this.hosts.delete(line.id);
      await guests.end();
    }
  }

  /** One piece of work after another on one line; between two of them the line goes to whoever waits for it. */
  async forEach<T>(
    line: Line,
    purpose: Purpose,
    pieces: readonly T[],
    work: (piece: T, drive: DriveLine) => Promise<void>,
    timing?: LineTiming,
  ): Promise<void> {
    const drive = await this.open(line, timing);
    try {
      await this.turns.forEach(line.id, purpose, pieces, (piece) =>
        this.hosting(line, lets(purpose, timing), drive, (own) => work(piece, own)),
      );
    } finally {
      drive.close();
    }
  }
}

/** Who writes is not disturbed; and with another's patience than the line's own, a guest would call a unit silent that is slow. */
const lets = (purpose: Purpose, timing: LineTiming | undefined): boolean =>
  purpose !== 'write' && timing === undefined;

const settingsOf = ({ host, port, framing, timeoutMs, retries, pauseMs, largestRead }: Line) => ({
  host,
  port,
  framing,
  timeoutMs,
  retries,
  pauseMs,
  largestRead,
});

/** After so long a statement that the machine stands is old: whoever waited longer for a line asks again. */
export const PATIENCE_MS = 60_000;

/** In words, where the line was waited for so long that what was stated before has to be stated again. */
export function waitedTooLong({ waitedMs }: Pick<LineTurn, 'waitedMs'>): string | undefined {
  if (waitedMs <= PATIENCE_MS) return undefined;
  return `The line was busy for ${Math.round(waitedMs / 1000)} s, and what was stated before is as old. State again that the machine is stopped and safe to write to.`;
}

export const noLine = (tag: string): ProblemException =>
  new ProblemException(422, 'no-line', `${tag} has no line. Nothing was read.`);
