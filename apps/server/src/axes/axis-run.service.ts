// Loads the axes of a machine: hold the controller, read every axis, write every axis, save every axis, restart the
// controller, prove every axis. Where one fails, those that were written stay or go back, as was chosen before, and the
// machine stays held until somebody has looked at it.

import { Injectable, Logger, type OnModuleInit } from '@nestjs/common';
import { factsOf, type Code } from '@drive-keep/core/dictionary';
import { planWrites } from '@drive-keep/core/plans';
import type { Reading } from '@drive-keep/core/values';
import { DataSource } from 'typeorm';
import { JobRuns } from '../jobs/job-runs.service.ts';
import { Jobs } from '../jobs/jobs.service.ts';
import type { DriveLine } from '../lines/drive-line.ts';
import type { LineTurn } from '../lines/line-turns.ts';
import { Lines, waitedTooLong } from '../lines/lines.service.ts';
import { UnitAtLine } from '../lines/unit-at-line.ts';
import { Logbook } from '../logbook/logbook.service.ts';
import { ContentStore } from '../sets/content-store.service.ts';
import { isTouched } from '../writing/unit-holds.ts';
import { WriteGuard } from '../writing/write-guard.service.ts';
import { WritePlans } from '../writing/write-plans.service.ts';
import { doneText, PlanEnd, WriteRun, type Writing, type WritingAt } from '../writing/write-run.service.ts';
import type { AxisLoad } from './axis-load.entity.ts';
import { AxisLoads } from './axis-loads.service.ts';
import { ControllerLine } from './controller-line.ts';

/** A load in the hands of its worker, while the line of the machine's controller is held. */
interface Loading {
  readonly load: AxisLoad;
  readonly axes: readonly Writing[];
  readonly controller: ControllerLine;
  readonly lineId: string;
  readonly drive: DriveLine;
  readonly turn: LineTurn;
}

/** The axis that failed, and with which words. */
interface Stopped {
  readonly at: Writing;
  readonly end: PlanEnd;
}

@Injectable()
export class AxisRun implements OnModuleInit {
  private readonly logger = new Logger('AxisRun');

  constructor(
    private readonly dataSource: DataSource,
    private readonly loads: AxisLoads,
    private readonly plans: WritePlans,
    private readonly writes: WriteRun,
    private readonly guard: WriteGuard,
    private readonly jobs: Jobs,
    private readonly runs: JobRuns,
    private readonly lines: Lines,
    private readonly contents: ContentStore,
    private readonly logbook: Logbook,
  ) {}

  onModuleInit(): void {
    this.jobs.endAlong('axes', this.loads);
  }

  async serve(): Promise<void> {
    await this.runs.serve('axes', (jobId, stopped) => this.run(jobId, stopped));
  }

  private async run(jobId: string, stopped: () => boolean): Promise<void> {
    const job = await this.jobs.load(jobId);
    const load = await this.loads.ofJob(jobId);
    const { line, address } = await this.loads.controllerOf(load);
    const person = job.requestedBy;
    const axes = await Promise.all(
      load.planIds.map((id, place) => this.writes.open(id, { person, stopped, jobId, place })),
    );
    // The axes may sit on several lines: each is held by itself, the controller's for the whole.
    await this.lines.withLine(line, 'write', (drive, turn) =>
      this.carryOut({
        ...{ load, axes, lineId: line.id, drive, turn },
        controller: new ControllerLine(drive, address),
      }),
    );
  }

  private async carryOut(loading: Loading): Promise<void> {
    const { controller, axes, turn } = loading;
    const late = waitedTooLong(turn) ?? (await this.objection(axes));
    if (late !== undefined) return this.refuse(loading, `${late} Nothing was written.`);
    // What an earlier load has left held is not started by this one's refusal.
    const ran = (await controller.state()) !== 'held';
    const held = await controller.hold();
    if (held !== undefined) return this.refuse(loading, `${held} Nothing was written.`);
    const unread = await this.each(loading, (axis) => this.writes.prepare(axis));
    if (unread) {
      const { tag } = unread.at.plan.position;
      const stays = ran ? await this.letGo(loading, unread.at) : ' The machine stays held, as it was before.';
      return this.refuse(loading, `${tag}: ${unread.end.message}${stays}`);
    }
    const unwritten =
      (await this.each(loading, (axis) => this.writes.writeAll(axis))) ??
      (await this.each(loading, (axis) => this.writes.save(axis)));
    if (unwritten) return this.leave(loading, unwritten);
    await this.prove(loading);
  }

  /** Started again, and each axis read. A machine whose release has run out meanwhile stays held. */
  private async prove(loading: Loading): Promise<void> {
    const { axes, controller } = loading;
    const late = await this.objection(axes);
    const notReady = late === undefined ? await controller.restart() : `${late} The machine stays held.`;
    const unproven = await this.each(loading, (axis) => this.writes.verify(axis));
    for (const axis of axes) {
      if (axis !== unproven?.at) await this.writes.end(axis, 'done', doneText(axis));
    }
    const trouble = unproven ? `${unproven.at.plan.position.tag}: ${unproven.end.message}` : notReady;
    const text = trouble ?? `All ${axes.length} axes are written, saved and proven; the controller is ready.`;
    await this.end(loading, trouble === undefined ? 'done' : 'failed', text);
  }

  /** What is against it for any axis, as the record stands now. */
  private async objection(axes: readonly Writing[]): Promise<string | undefined> {
    for (const { plan, unit, stopped } of axes) {
      if (stopped()) return 'Somebody stopped it.';
      const aim = { planId: plan.id, lineId: unit.line.id, address: unit.address };
      const objection = await this.guard.objection(aim);
      if (objection !== undefined) return objection;
    }
    return undefined;
  }

  /** Lets the machine go on, as long as somebody stands for it; in words where it stays held. */
  private async letGo({ axes, controller }: Loading, unread: Writing): Promise<string> {
    // The plan that could not be begun has come to its end already.
    const others = axes.filter((axis) => axis !== unread);
    if ((await this.objection(others)) !== undefined) return ' The machine stays held.';
    const trouble = await controller.goOn();
    return trouble === undefined ? '' : ` ${trouble}`;
  }

  private async each(
    loading: Loading,
    work: (axis: WritingAt) => Promise<void>,
  ): Promise<Stopped | undefined> {
    for (const axis of loading.axes) {
      const stopped = await this.onLine(loading, axis, async (at) => {
        try {
          await work(at);
          return undefined;
        } catch (error) {
          return { at: axis, end: await this.writes.fail(at, error) };
        }
      });
      if (stopped) return stopped;
    }
    return undefined;
  }

  private onLine<T>(
    { lineId, drive, turn }: Loading,
    axis: Writing,
    work: (at: WritingAt) => Promise<T>,
  ): Promise<T> {
    if (axis.unit.line.id !== lineId) return this.writes.atUnit(axis, work);
    return work({ ...axis, at: new UnitAtLine(axis.unit, drive, { waitedMs: 0, lost: turn.lost }) });
  }

  /** Nothing was written to any axis. */
  private async refuse(loading: Loading, text: string): Promise<void> {
    for (const axis of loading.axes) await this.writes.end(axis, 'refused', text);
    await this.end(loading, 'refused', text);
  }

  /** One axis has failed; the machine stays held. */
  private async leave(loading: Loading, { at, end }: Stopped): Promise<void> {
    const { load, axes } = loading;
    const words: string[] = [];
    for (const axis of axes.filter((each) => each !== at)) {
      const text = !isTouched(axis.plan)
        ? await this.untouched(axis)
        : await this.onLine(loading, axis, (held) =>
            load.onFailure === 'back' ? this.back(held) : this.stay(held),
          );
      words.push(`${axis.plan.position.tag}: ${text}`);
    }
    const { tag } = at.plan.position;
    const text = `${tag}: ${end.message} ${words.join(' ')} The machine is held; it is not started again before this is settled.`;
    await this.end(loading, 'failed', text);
  }

  private async untouched(axis: Writing): Promise<string> {
    const text = 'Nothing was written.';
    await this.writes.end(axis, 'refused', text, '');
    return text;
  }

  /** All of it is written already. */
  private async stay(axis: WritingAt): Promise<string> {
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

  /** From what it really holds to what it held before, by a plan of its own, which is carried out as any other. */
  private async back(axis: WritingAt): Promise<string> {
    try {
      const undo = { ...(await this.planBack(axis)), at: axis.at };
      try {
        await this.writes.prepare(undo);
        await this.writes.writeAll(undo);
        await this.writes.save(undo);
        await this.writes.verify(undo);
        await this.writes.end(undo, 'done', doneText(undo));
      } catch (error) {
        const { message } = await this.writes.fail(undo, error);
        throw new PlanEnd('failed', `On the way back: ${message}`);
      }
      const text = 'Went back to the values before, saved.';
      await this.writes.end(axis, 'failed', text, 'It holds what it held before.');
      return text;
    } catch (error) {
      return (await this.writes.fail(axis, error)).message;
    }
  }

  private async planBack(axis: WritingAt): Promise<Writing> {
    const { plan, unit, person, jobId, place, stopped } = axis;
    const { dictionary } = unit;
    const current = await this.writes.readNow(axis);
    const before = await this.contents.get(plan.basisHash);
    const wanted = new Map<Code, Reading>(before.readings);
    const way = planWrites(dictionary, factsOf(dictionary, plan.unit) ?? {}, current, wanted);
    const told = { kind: 'undo' as const, follows: plan.id, person, target: 'the values before the load' };
    const id = await this.dataSource.transaction(async (manager) => {
      const kept = await this.plans.keep(manager, plan, dictionary, current, way, told);
      await this.plans.beginWithin(manager, kept, plan, jobId);
      return kept;
    });
    return this.writes.open(id, { person, jobId, place, stopped });
  }

  private async end(
    { load, axes }: Loading,
    state: 'done' | 'refused' | 'failed',
    text: string,
  ): Promise<void> {
    await this.dataSource.transaction(async (manager) => {
      if (!(await this.loads.close(manager, load.id, { state, text })))
        return this.logger.warn(`The load ${load.id} was ended by somebody else.`);
      const note = { person: axes[0]?.person ?? '', action: `axes-${state}`, facts: { load: load.id } };
      await this.logbook.write({ ...note, text: `${load.machine.name}: ${text}` }, manager);
    });
  }
}
