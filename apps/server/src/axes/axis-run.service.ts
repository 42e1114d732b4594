// Loads the axes of a machine: hold the controller, read every axis, write every axis, save every axis, restart the
// controller, prove every axis. Where one fails, those that were written stay or go back, as was chosen before, and the
// machine stays held until somebody has looked at it.

import { Injectable } from '@nestjs/common';
import { factsOf, type Code } from '@drive-keep/core/dictionary';
import { planWrites } from '@drive-keep/core/plans';
import type { Reading } from '@drive-keep/core/values';
import { JobQueue } from '../jobs/job-queue.service.ts';
import { Jobs } from '../jobs/jobs.service.ts';
import { LineLock } from '../line/line-lock.ts';
import { ModbusLine } from '../line/modbus-line.ts';
import { Logbook } from '../logbook/logbook.service.ts';
import { ContentStore } from '../sets/content-store.service.ts';
import { doneText, PlanEnd, WriteRun, type Writing } from '../writing/write-run.service.ts';
import { AxisLoads } from './axis-loads.service.ts';
import type { AxisLoad } from './axis-load.entity.ts';
import { ControllerLine } from './controller-line.ts';
import { DataSource } from 'typeorm';

/** The axis that failed, and with which words. */
interface Stopped {
  readonly at: Writing;
  readonly end: PlanEnd;
}

@Injectable()
export class AxisRun {
  constructor(
    private readonly dataSource: DataSource,
    private readonly loads: AxisLoads,
    private readonly writes: WriteRun,
    private readonly jobs: Jobs,
    private readonly queue: JobQueue,
    private readonly lock: LineLock,
    private readonly contents: ContentStore,
    private readonly logbook: Logbook,
  ) {}

  async serve(): Promise<void> {
    this.queue.whenSwept(() => this.loads.followInterrupted());
    await this.queue.serve('axes', (jobId, stopped) => this.run(jobId, stopped));
  }

  private async run(jobId: string, stopped: () => boolean): Promise<void> {
    const job = await this.jobs.load(jobId);
    const [found]: { id: string }[] = await this.dataSource.query(
      'select id from axis_load where job_id = $1',
      [jobId],
    );
    const load = await this.loads.load(found?.id ?? '');
    const { line, address } = await this.loads.controllerOf(load);
    const modbus = new ModbusLine(line.host, line.port);
    const person = job.requestedBy;
    const axes = await Promise.all(
      load.planIds.map((id, place) => this.writes.open(id, { person, stopped, jobId, place })),
    );
    try {
      // The axes may sit on several lines: each is held by itself, the controller's for the whole.
      await this.lock.hold(line.id, () =>
        this.carryOut(load, axes, new ControllerLine(modbus, address), line.id),
      );
    } finally {
      modbus.close();
      for (const axis of axes) axis.line.close();
    }
  }

  private async carryOut(
    load: AxisLoad,
    axes: readonly Writing[],
    controller: ControllerLine,
    lineId: string,
  ): Promise<void> {
    const onLine = <T>(axis: Writing, work: () => Promise<T>): Promise<T> =>
      axis.lineId === lineId ? work() : this.lock.hold(axis.lineId, work);
    // What an earlier load has left held is not started by this one's refusal.
    const ran = (await controller.state()) !== 'held';
    const held = await controller.hold();
    if (held !== undefined) return this.refuse(load, axes, `${held} Nothing was written.`);
    const each = async (work: (axis: Writing) => Promise<void>): Promise<Stopped | undefined> => {
      for (const axis of axes) {
        try {
          await onLine(axis, () => work(axis));
        } catch (error) {
          return { at: axis, end: await this.writes.fail(axis, error) };
        }
      }
      return undefined;
    };
    const unread = await each((axis) => this.writes.prepare(axis));
    if (unread) {
      const stays = ran ? '' : ' The machine stays held, as it was before.';
      if (ran) await controller.goOn();
      return this.refuse(load, axes, `${unread.at.plan.position.tag}: ${unread.end.message}${stays}`);
    }
    const unwritten =
      (await each((axis) => this.writes.writeAll(axis))) ?? (await each((axis) => this.writes.save(axis)));
    if (unwritten) return this.leave(load, axes, unwritten, onLine);
    const notReady = await controller.restart();
    const unproven = await each((axis) => this.writes.verify(axis));
    for (const axis of axes) {
      if (axis === unproven?.at) continue;
      await this.writes.end(axis, 'done', doneText(axis));
      await this.jobs.endItem(axis.jobId, axis.place, 'kept', doneText(axis));
    }
    const trouble = unproven ? `${unproven.at.plan.position.tag}: ${unproven.end.message}` : notReady;
    if (unproven)
      await this.jobs.endItem(unproven.at.jobId, unproven.at.place, 'failed', unproven.end.message);
    const text = trouble ?? `All ${axes.length} axes are written, saved and proven; the controller is ready.`;
    await this.end(load, axes, trouble === undefined ? 'done' : 'failed', text);
  }

  /** Nothing was written to any axis. */
  private async refuse(load: AxisLoad, axes: readonly Writing[], text: string): Promise<void> {
    for (const axis of axes) {
      await this.writes.end(axis, 'refused', text);
      await this.jobs.endItem(axis.jobId, axis.place, 'stopped', text);
    }
    await this.end(load, axes, 'refused', text);
  }

  /** One axis has failed; the machine stays held. */
  private async leave(
    load: AxisLoad,
    axes: readonly Writing[],
    { at, end }: Stopped,
    onLine: <T>(axis: Writing, work: () => Promise<T>) => Promise<T>,
  ): Promise<void> {
    await this.jobs.endItem(at.jobId, at.place, 'failed', end.message);
    const words: string[] = [];
    for (const axis of axes.filter((each) => each !== at)) {
      const touched = axis.plan.steps.some(({ state }) => state !== 'planned');
      const { tag } = axis.plan.position;
      const text = !touched
        ? await this.untouched(axis)
        : await onLine(axis, () => (load.onFailure === 'back' ? this.back(axis) : this.stay(axis)));
      words.push(`${tag}: ${text}`);
      await this.jobs.endItem(axis.jobId, axis.place, 'stopped', text);
    }
    const { tag } = at.plan.position;
    const text = `${tag}: ${end.message} ${words.join(' ')} The machine is held; it is not started again before this is settled.`;
    await this.end(load, axes, 'failed', text);
  }

  private async untouched(axis: Writing): Promise<string> {
    const text = 'Nothing was written.';
    await this.writes.end(axis, 'refused', text, '');
    return text;
  }

  /** All of it is written already. */
  private async stay(axis: Writing): Promise<string> {
    try {
      if (!axis.plan.saved) await this.writes.save(axis);
      await this.writes.verify(axis);
      const text = 'Stays with the new values, saved and proven.';
      await this.writes.end(axis, 'done', text);
      return text;
    } catch (error) {
      return (await this.writes.fail(axis, error)).message;
    }
  }

  /** From what it really holds to what it held before, by a plan of its own. */
  private async back(axis: Writing): Promise<string> {
    const { plan, dictionary } = axis;
    try {
      const current = await this.writes.readNow(axis);
      const before = await this.contents.get(plan.basisHash);
      const wanted = new Map<Code, Reading>(before.readings);
      const way = planWrites(dictionary, factsOf(dictionary, plan.unit) ?? {}, current, wanted);
      for (const { code, to } of way.steps) {
        const written = await axis.writer.write({ code, toRaw: to, busyMs: 0 });
        if (!written.ok) throw new PlanEnd('failed', `${code} ${written.fault.text} on the way back.`);
      }
      await this.writes.save(axis);
      const text = 'Went back to the values before, saved.';
      await this.writes.end(axis, 'failed', text, 'It holds what it held before.');
      return text;
    } catch (error) {
      return (await this.writes.fail(axis, error)).message;
    }
  }

  private async end(
    load: AxisLoad,
    axes: readonly Writing[],
    state: 'done' | 'refused' | 'failed',
    text: string,
  ): Promise<void> {
    await this.loads.update(load.id, { state, text });
    const person = axes[0]?.person ?? '';
    await this.logbook.write({
      person,
      action: `axes-${state}`,
      text: `${load.machine.name}: ${text}`,
      facts: { load: load.id },
    });
  }
}
