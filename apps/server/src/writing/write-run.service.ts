// Carries out a write plan on a unit: guard, backup, writes with read-back, permanent save, backup, comparison with
// what was predicted. Every step is persisted before and after it is done; the state of the unit is never assumed.

import { Injectable, Logger } from '@nestjs/common';
import type { WritePlanState } from '@drive-keep/api';
import { compareSets } from '@drive-keep/core/compare';
import type { Dictionary } from '@drive-keep/core/dictionary';
import type { ParameterSet } from '@drive-keep/core/sets';
import { Dictionaries, lineFactsOf } from '../catalogue/dictionaries.service.ts';
import { JobQueue } from '../jobs/job-queue.service.ts';
import { Jobs } from '../jobs/jobs.service.ts';
import type { DriveLine } from '../line/drive-line.ts';
import { LineLock } from '../line/line-lock.ts';
import { describeFault } from '../line/line-text.ts';
import { ModbusLine } from '../line/modbus-line.ts';
import { readUnit, type UnitReading } from '../line/unit-reader.ts';
import { Logbook } from '../logbook/logbook.service.ts';
import { DataSource } from 'typeorm';
import type { Backup } from '../sets/backup.entity.ts';
import { Backups } from '../sets/backups.service.ts';
import { ContentStore } from '../sets/content-store.service.ts';
import { StoredWritePlan } from './write-plan.entity.ts';
import type { StoredWriteStep } from './write-step.entity.ts';
import { describeHolds } from './write-plan-view.ts';
import { WritePlans } from './write-plans.service.ts';
import { UnitWriter } from './unit-writer.ts';

/** The end of a plan before its time. `refused` means that nothing was written. */
export class PlanEnd extends Error {
  constructor(
    readonly state: WritePlanState,
    text: string,
  ) {
    super(text);
  }
}

export interface Writing {
  readonly plan: StoredWritePlan;
  readonly person: string;
  readonly jobId: string;
  /** Place of the unit in the job. */
  readonly place: number;
  readonly lineId: string;
  readonly line: DriveLine;
  readonly writer: UnitWriter;
  readonly address: number;
  readonly dictionary: Dictionary;
  readonly stopped: () => boolean;
}

@Injectable()
export class WriteRun {
  private readonly logger = new Logger('WriteRun');

  constructor(
    private readonly dataSource: DataSource,
    private readonly plans: WritePlans,
    private readonly jobs: Jobs,
    private readonly queue: JobQueue,
    private readonly dictionaries: Dictionaries,
    private readonly backups: Backups,
    private readonly contents: ContentStore,
    private readonly lock: LineLock,
    private readonly logbook: Logbook,
  ) {}

  async serve(): Promise<void> {
    this.queue.whenSwept(() => this.plans.followInterrupted());
    await this.queue.serve('write', (jobId, stopped) => this.run(jobId, stopped));
  }

  private async run(jobId: string, stopped: () => boolean): Promise<void> {
    const job = await this.jobs.load(jobId);
    const found = await this.dataSource.getRepository(StoredWritePlan).findOneByOrFail({ jobId });
    const writing = await this.open(found.id, { person: job.requestedBy, stopped, jobId, place: 0 });
    const { plan } = writing;
    try {
      await this.jobs.progress(jobId, 0, { state: 'reading', done: 0, total: plan.steps.length });
      await this.lock.hold(writing.lineId, () => this.carryOut(writing));
      const text = doneText(writing);
      await this.end(writing, 'done', text);
      await this.jobs.endItem(jobId, 0, 'kept', text);
    } catch (error) {
      const end = await this.fail(writing, error);
      await this.jobs.endItem(jobId, 0, end.state === 'refused' ? 'stopped' : 'failed', end.message);
    } finally {
      writing.line.close();
    }
  }

  /** Makes a plan ready to be carried out; the caller closes the line. */
  async open(
    id: string,
    job: {
      readonly person: string;
      readonly stopped: () => boolean;
      readonly jobId: string;
      readonly place: number;
    },
  ): Promise<Writing> {
    const plan = await this.plans.load(id);
    const { line, lineAddress } = plan.unit;
    if (!line || lineAddress === null) throw new Error('a plan without a line was started');
    const dictionary = await this.dictionaries.get(plan.dictionaryId);
    const drive = new ModbusLine(line.host, line.port);
    const target = { line: drive, address: lineAddress, serial: plan.unit.serial, dictionary };
    return { plan, lineId: line.id, ...job, ...target, writer: new UnitWriter(target) };
  }

  /** Ends a plan before its time, and says with which words. */
  async fail(writing: Writing, error: unknown): Promise<PlanEnd> {
    const end = error instanceof PlanEnd ? error : this.ownFault(error);
    await this.end(writing, end.state, end.message);
    return end;
  }

  private ownFault(error: unknown): PlanEnd {
    this.logger.error(error instanceof Error ? (error.stack ?? error.message) : String(error));
    return new PlanEnd(
      'failed',
      'Something went wrong inside Drive Keep. Write the rest or go back, from what the unit holds now.',
    );
  }

  private async carryOut(writing: Writing): Promise<void> {
    await this.prepare(writing);
    await this.writeAll(writing);
    await this.save(writing);
    if (writing.plan.restartCheck) await this.prove(writing.writer.restart());
    await this.verify(writing);
  }

  /** Backs the unit up and makes sure that it holds what was planned from. Nothing has been written when it ends here. */
  async prepare(writing: Writing): Promise<void> {
    const before = await this.backUp(writing, 'before-write', 'refused');
    await this.plans.update(writing.plan.id, { backupBefore: before.backup.id });
    await this.requireUnchanged(writing, before.reading);
  }

  async writeAll(writing: Writing): Promise<void> {
    const { steps } = writing.plan;
    const reset = steps.filter(({ phase }) => phase === 'reset');
    for (const step of reset) await this.step(writing, step);
    await this.requireDefaults(writing);
    for (const step of steps.slice(reset.length)) await this.step(writing, step);
  }

  async save({ plan, writer }: Writing): Promise<void> {
    plan.saveBegun = true;
    await this.plans.update(plan.id, { saveBegun: true });
    await this.prove(writer.save());
    plan.saved = true;
    await this.plans.update(plan.id, { saved: true });
  }

  /** Reads the unit and holds it against what was predicted. */
  async verify(writing: Writing): Promise<void> {
    const after = await this.backUp(writing, 'after-write', 'failed');
    await this.plans.update(writing.plan.id, { backupAfter: after.backup.id });
    await this.requirePredicted(writing, after.reading);
  }

  private async prove(trouble: Promise<string | undefined>): Promise<void> {
    const text = await trouble;
    if (text !== undefined) throw new PlanEnd('failed', text);
  }

  /** Reads the whole unit, which also proves its model and serial number. */
  private async read(
    { plan, line, address, dictionary, stopped }: Writing,
    state: WritePlanState,
    rest: string,
  ): Promise<UnitReading> {
    const { unit, position } = plan;
    const control = { progress: () => undefined, stopped };
    const expected = { address, serial: unit.serial };
    const read = await readUnit(line, dictionary, lineFactsOf(dictionary), expected, control);
    if (read.ok) return read.value;
    const name = { tag: position.tag, serial: unit.serial, modelName: dictionary.name };
    const why = describeFault(read.fault, name).replace('Nothing was kept.', '').trim();
    throw new PlanEnd(state, `${why} ${rest}`);
  }

  /** What the unit holds at this moment. */
  async readNow(writing: Writing): Promise<ParameterSet> {
    return (await this.read(writing, 'failed', 'Look at the unit.')).set;
  }

  private async backUp(
    writing: Writing,
    how: 'before-write' | 'after-write',
    state: WritePlanState,
  ): Promise<{ reading: UnitReading; backup: Backup }> {
    const { plan, person: takenBy } = writing;
    const { unit, position } = plan;
    const rest = state === 'refused' ? 'Nothing was written.' : 'The writes are saved, but not proven.';
    const reading = await this.read(writing, state, rest);
    const { set, aside, identity } = reading;
    const reason =
      how === 'before-write' ? 'Before a write plan' : `After a write plan towards ${plan.target}`;
    const { serial, firmware } = identity;
    const what = { position, unit, set, aside, takenBy, how, reason, serial, firmware };
    return { reading, backup: await this.backups.keep(what) };
  }

  private async requireUnchanged({ plan, dictionary }: Writing, { set }: UnitReading): Promise<void> {
    const { rows } = compareSets(dictionary, await this.contents.get(plan.basisHash), set);
    if (rows.length === 0) return;
    const codes = rows.map((row) => row.code).join(', ');
    const text = `The unit holds other values than when this was planned (${codes}). Look at the newest backup and plan again. Nothing was written.`;
    throw new PlanEnd('refused', text);
  }

  private async requirePredicted({ plan, dictionary }: Writing, { set }: UnitReading): Promise<void> {
    const { rows } = compareSets(dictionary, await this.contents.get(plan.predictedHash), set);
    if (rows.length === 0) return;
    const codes = rows.map((row) => row.code).join(', ');
    throw new PlanEnd(
      'failed',
      `After the writes the unit holds other values than planned: ${codes}. Look at the newest backup.`,
    );
  }

  /** One step, stored before and after it is done. */
  private async step(writing: Writing, step: StoredWriteStep): Promise<void> {
    const { plan, writer } = writing;
    const nothingYet = plan.steps.every(({ state }) => state === 'planned');
    const objection = await writer.objection(plan.position.tag);
    if (objection !== undefined) {
      const rest = nothingYet ? ' Nothing was written.' : '';
      throw new PlanEnd(nothingYet ? 'refused' : 'failed', `${objection}${rest}`);
    }
    if (writing.stopped()) throw new PlanEnd('failed', `Stopped before ${step.code} was written.`);
    step.state = 'writing';
    await this.plans.updateStep(plan.id, step.place, { state: 'writing' });
    const written = await writer.write(step);
    if (!written.ok) {
      const { text, doubtful, readBack } = written.fault;
      step.state = doubtful ? 'writing' : 'failed';
      const change = { state: step.state, text, readBack: readBack ?? null };
      await this.plans.updateStep(plan.id, step.place, change);
      throw new PlanEnd('failed', `${step.code} ${text}.`);
    }
    step.state = 'written';
    await this.plans.updateStep(plan.id, step.place, { state: 'written', readBack: written.value ?? null });
    await this.jobs.progress(writing.jobId, writing.place, { done: step.place + 1 });
  }

  /** That the unit holds its defaults now is read, not believed. */
  private async requireDefaults(writing: Writing): Promise<void> {
    const { plan, dictionary } = writing;
    if (plan.resetHash === null) return;
    const { set } = await this.read(writing, 'failed', 'The reset was started, but is not proven.');
    const { rows } = compareSets(dictionary, await this.contents.get(plan.resetHash), set);
    if (rows.length === 0) return;
    const codes = rows.map((row) => row.code).join(', ');
    throw new PlanEnd(
      'failed',
      `After the reset these do not hold their defaults: ${codes}. Nothing was put back yet.`,
    );
  }

  /** `held` says what the unit holds, where the steps alone do not tell. */
  async end(
    { plan, person, dictionary }: Writing,
    state: WritePlanState,
    text: string,
    held = describeHolds(plan, dictionary),
  ): Promise<void> {
    const holds = state === 'done' ? '' : held;
    await this.plans.update(plan.id, { state, text, holds });
    const { tag } = plan.position;
    const action = state === 'done' ? 'written' : `write-${state}`;
    const steps = plan.steps.map(({ code, fromReading, toRaw, state: step }) => ({
      code,
      fromReading,
      toRaw,
      step,
    }));
    await this.logbook.write({
      person,
      action,
      tag,
      text: `${text} ${holds}`.trim(),
      facts: { plan: plan.id, steps },
    });
  }
}

export function doneText({ plan, dictionary }: Pick<Writing, 'plan' | 'dictionary'>): string {
  const { steps, kind, restartCheck } = plan;
  const writes = steps.filter(({ phase }) => phase !== 'reset').length;
  const values = writes === 1 ? '1 value' : `${writes} values`;
  const reset = kind === 'reset' ? 'Reset, defaults proven. ' : '';
  const proof = restartCheck ? ' Still there after a restart.' : '';
  const written = writes === 0 ? 'Nothing had to be written' : `${values} written, read back`;
  const kept = dictionary.line?.save ? 'saved permanently' : 'kept by the unit at once';
  return `${reset}${written}, ${kept}.${proof}`;
}
