// The controller of a machine by itself: what it does, held and started again by hand. A load of all axes does both on
// its own; this is for work on a single axis, such as its reset, and for a machine that a broken load has left held.

import { Injectable } from '@nestjs/common';
import type { ControllerCommand, ControllerView } from '@drive-keep/api';
import { DataSource } from 'typeorm';
import type { Account } from '../access/account.entity.ts';
import { Lines, waitedTooLong } from '../lines/lines.service.ts';
import { Logbook } from '../logbook/logbook.service.ts';
import { notFound, ProblemException } from '../problems/problem.ts';
import { Position } from '../register/position.entity.ts';
import { ControllerLine } from './controller-line.ts';
import { MachineController } from './machine-controller.entity.ts';

@Injectable()
export class MachineControl {
  constructor(
    private readonly dataSource: DataSource,
    private readonly lines: Lines,
    private readonly logbook: Logbook,
  ) {}

  async state(tag: string): Promise<ControllerView> {
    const { controller } = await this.of(tag);
    return { state: await this.ask(controller, 'look', (line) => line.state()) };
  }

  /** A problem says why where it does not follow. */
  async command(tag: string, command: ControllerCommand, { person }: Account): Promise<ControllerView> {
    const { controller, machine } = await this.of(tag);
    const before = await this.workOn(controller.machineId);
    if (before.some(({ state }) => state === 'loading' || state === 'writing'))
      throw refused(`An axis of ${machine} is being written to. Wait until that has ended.`);
    const trouble = await this.ask(controller, 'write', async (line, late) => {
      if (late !== undefined) throw refused(late);
      // What was begun or ended while the line was waited for may have left the machine held, and for a reason.
      const now = await this.workOn(controller.machineId);
      if (JSON.stringify(now) !== JSON.stringify(before))
        throw refused(`Something else was done at ${machine} meanwhile. Look at its axes first.`);
      return command === 'hold' ? line.hold() : line.restart();
    });
    if (trouble !== undefined) throw new ProblemException(502, 'controller', trouble);
    const text = command === 'hold' ? `Held ${machine}.` : `Started ${machine} again; all axes are ready.`;
    await this.logbook.write({ person, action: `machine-${command}`, tag, text });
    return this.state(tag);
  }

  private ask<T>(
    { line, address }: MachineController,
    purpose: 'look' | 'write',
    work: (line: ControllerLine, late: string | undefined) => Promise<T>,
  ): Promise<T> {
    return this.lines.withLine(line, purpose, (drive, turn) =>
      work(new ControllerLine(drive, address), waitedTooLong(turn)),
    );
  }

  /** Loads of the machine and write plans of its axes, each with its state. */
  private workOn(machineId: string): Promise<readonly { readonly id: string; readonly state: string }[]> {
    return this.dataSource.query(
      `select id, state from axis_load where machine_id = $1
       union all
       select w.id, w.state from write_plan w join position p on p.id = w.position_id where p.machine_id = $1
       order by id`,
      [machineId],
    );
  }

  private async of(tag: string): Promise<{ controller: MachineController; machine: string }> {
    const position = await this.dataSource
      .getRepository(Position)
      .findOne({ where: { tag }, relations: { machine: true } });
    if (!position) throw notFound(`The position ${tag}`);
    const { id, name } = position.machine;
    const controller = await this.dataSource
      .getRepository(MachineController)
      .findOne({ where: { machineId: id }, relations: { line: true } });
    if (!controller)
      throw new ProblemException(404, 'no-controller', `${name} has no controller that could be held.`);
    return { controller, machine: name };
  }
}

const refused = (detail: string): ProblemException =>
  new ProblemException(409, 'at-work', `${detail} Nothing was done.`);
