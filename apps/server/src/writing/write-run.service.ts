// Carries out a write plan on a unit: guard, backup, writes with read-back, permanent save, backup, comparison with
// what was predicted. Every step is persisted before and after it is done; the state of the unit is never assumed.

import { Injectable, Logger } from '@nestjs/common';
import type { WritePlanState } from '@drive-keep/api';
import { compareSets } from '@drive-keep/core/compare';
import {
  findParameter,
  type Dictionary,
  type LineFacts,
  type RegisterPlace,
} from '@drive-keep/core/dictionary';
import { showRaw } from '@drive-keep/core/values';
import { Dictionaries, lineFactsOf } from '../catalogue/dictionaries.service.ts';
import { JobQueue } from '../jobs/job-queue.service.ts';
import { Jobs } from '../jobs/jobs.service.ts';
import type { DriveLine, LineFault } from '../line/drive-line.ts';
import { LineLock } from '../line/line-lock.ts';
import { describeFault } from '../line/line-text.ts';
import { ModbusLine } from '../line/modbus-line.ts';
import { readUnit, type UnitReading } from '../line/unit-reader.ts';
import { rawToWords, wordsToRaw } from '../line/words.ts';
import { Logbook } from '../logbook/logbook.service.ts';
import { DataSource } from 'typeorm';
import type { Backup } from '../sets/backup.entity.ts';
import { Backups } from '../sets/backups.service.ts';
import { ContentStore } from '../sets/content-store.service.ts';
import { StoredWritePlan } from './write-plan.entity.ts';
import type { StoredWriteStep } from './write-step.entity.ts';
import { describeHolds, WritePlans } from './write-plans.service.ts';

/** The end of a plan before its time. `refused` means that nothing was written. */
class PlanEnd extends Error {
  constructor(
    readonly state: WritePlanState,
    text: string,
  ) {
    super(text);
  }
}

interface Writing {
  readonly plan: StoredWritePlan;
  readonly person: string;
  readonly line: DriveLine;
  readonly address: number;
  readonly dictionary: Dictionary;
  readonly facts: LineFacts;
  readonly stopped: () => boolean;
}

/** How long a unit may be busy with its own procedures beyond what its manual says, in ms. */
const BUSY_PATIENCE_MS = 5000;
const BUSY_POLL_MS = 50;

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
    const plan = await this.plans.load(found.id);
    const { line, lineAddress } = plan.unit;
    if (!line || lineAddress === null) throw new Error('a plan without a line was started');
    const dictionary = await this.dictionaries.get(plan.dictionaryId);
    const facts = lineFactsOf(dictionary);
    const drive = new ModbusLine(line.host, line.port);
    const person = job.requestedBy;
    const writing = { plan, person, line: drive, address: lineAddress, dictionary, facts, stopped };
    try {
      await this.jobs.progress(jobId, 0, { state: 'reading', done: 0, total: plan.steps.length });
      await this.lock.hold(line.id, () => this.carryOut(writing));
      const text = `${plan.steps.length} values put back, read back, saved permanently.`;
      await this.end(writing, 'done', text);
      await this.jobs.endItem(jobId, 0, 'kept', text);
    } catch (error) {
      const end = error instanceof PlanEnd ? error : this.ownFault(error);
      await this.end(writing, end.state, end.message);
      await this.jobs.endItem(jobId, 0, end.state === 'refused' ? 'stopped' : 'failed', end.message);
    } finally {
      drive.close();
    }
  }

  private ownFault(error: unknown): PlanEnd {
    this.logger.error(error instanceof Error ? (error.stack ?? error.message) : String(error));
    return new PlanEnd('failed', 'Something went wrong inside Drive Keep. Back the unit up and plan again.');
  }

  private async carryOut(writing: Writing): Promise<void> {
    const { plan } = writing;
    const before = await this.backUp(writing, 'before-write', 'refused');
    await this.plans.update(plan.id, { backupBefore: before.backup.id });
    await this.requireUnchanged(writing, before.reading);
    for (const step of plan.steps) await this.writeStep(writing, step);
    await this.save(writing);
    plan.saved = true;
    await this.plans.update(plan.id, { saved: true });
    const after = await this.backUp(writing, 'after-write', 'failed');
    await this.plans.update(plan.id, { backupAfter: after.backup.id });
    await this.requirePredicted(writing, after.reading);
  }

  /** Reads the whole unit, which also proves its model and serial number. */
  private async backUp(
    { plan, person, line, address, dictionary, facts, stopped }: Writing,
    how: 'before-write' | 'after-write',
    state: WritePlanState,
  ): Promise<{ reading: UnitReading; backup: Backup }> {
    const { unit, position } = plan;
    const control = { progress: () => undefined, stopped };
    const read = await readUnit(line, dictionary, facts, { address, serial: unit.serial }, control);
    if (!read.ok) {
      const name = { tag: position.tag, serial: unit.serial, modelName: dictionary.name };
      const why = describeFault(read.fault, name).replace('Nothing was kept.', '').trim();
      const rest = state === 'refused' ? 'Nothing was written.' : 'The writes are saved, but not proven.';
      throw new PlanEnd(state, `${why} ${rest}`);
    }
    const { set, aside, identity } = read.value;
    const reason =
      how === 'before-write' ? 'Before a write plan' : `After a write plan towards ${plan.target}`;
    const from = { serial: identity.serial, firmware: identity.firmware };
    const backup = await this.backups.keep({
      position,
      unit,
      set,
      aside,
      takenBy: person,
      how,
      reason,
      ...from,
    });
    return { reading: read.value, backup };
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

  private async writeStep(writing: Writing, step: StoredWriteStep): Promise<void> {
    const { plan, dictionary, line, address, facts } = writing;
    await this.requireStanding(writing, step.place === 0);
    if (writing.stopped()) throw new PlanEnd('failed', `Stopped before ${step.code} was written.`);
    const parameter = findParameter(dictionary, step.code);
    const place = parameter?.register;
    if (!parameter || !place) throw new Error(`step without register: ${step.code}`);
    step.state = 'writing';
    await this.plans.updateStep(plan.id, step.place, { state: 'writing' });
    const written = await line.write(address, place.address, rawToWords(place, step.toRaw, facts.wordOrder));
    if (!written.ok) return this.stepFailed(writing, step, refusedWrite(written.fault));
    const readBack = await this.readBack(writing, step, place);
    if (readBack !== step.toRaw) {
      const holds = showRaw(parameter.form, readBack);
      return this.stepFailed(writing, step, `was written but the unit holds ${holds}`, readBack);
    }
    step.state = 'written';
    await this.plans.updateStep(plan.id, step.place, { state: 'written', readBack });
    await this.jobs.progress(plan.jobId ?? '', 0, { done: step.place + 1 });
  }

  private async readBack(writing: Writing, step: StoredWriteStep, place: RegisterPlace): Promise<number> {
    const { line, address, facts } = writing;
    const answer = await line.read(address, place.address, place.width === 32 ? 2 : 1);
    if (answer.ok) return wordsToRaw(place, answer.value, facts.wordOrder);
    return this.stepFailed(
      writing,
      step,
      `could not be read back: ${faultWords(answer.fault)}`,
      undefined,
      'writing',
    );
  }

  private async stepFailed(
    { plan }: Writing,
    step: StoredWriteStep,
    why: string,
    readBack?: number,
    state: 'failed' | 'writing' = 'failed',
  ): Promise<never> {
    step.state = state;
    await this.plans.updateStep(plan.id, step.place, { state, text: why, readBack: readBack ?? null });
    throw new PlanEnd('failed', `${step.code} ${why}.`);
  }

  private async requireStanding({ line, address, facts, plan }: Writing, first: boolean): Promise<void> {
    const status = await line.read(address, facts.status.register, 1);
    const state = first ? 'refused' : 'failed';
    if (!status.ok)
      throw new PlanEnd(state, `The state of the unit could not be read: ${faultWords(status.fault)}.`);
    if (((status.value[0] ?? 0) >> facts.status.running) & 1) {
      const rest = first ? ' Nothing was written.' : '';
      throw new PlanEnd(
        state,
        `${plan.position.tag} is running. Stop the machine, then release it again.${rest}`,
      );
    }
  }

  /** Starts the permanent save and waits until the unit answers again. */
  private async save({ line, address, facts }: Writing): Promise<void> {
    const { register, value, busyMs } = facts.save;
    const begun = await line.write(address, register, [value]);
    if (!begun.ok)
      throw new PlanEnd('failed', `The permanent save was not taken: ${faultWords(begun.fault)}.`);
    for (let waited = 0; waited < busyMs + BUSY_PATIENCE_MS; waited += BUSY_POLL_MS) {
      await new Promise((resolve) => setTimeout(resolve, BUSY_POLL_MS));
      const answer = await line.read(address, facts.status.register, 1);
      if (answer.ok) return;
      if (answer.fault.code !== 'busy') {
        throw new PlanEnd('failed', `During the permanent save: ${faultWords(answer.fault)}.`);
      }
    }
    throw new PlanEnd('failed', 'The unit stays busy with its permanent save. Look at the unit.');
  }

  private async end({ plan, person }: Writing, state: WritePlanState, text: string): Promise<void> {
    const holds = state === 'done' ? '' : describeHolds(plan);
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

function refusedWrite(fault: LineFault): string {
  if (fault.code !== 'refused') return `was not written: ${faultWords(fault)}`;
  switch (fault.exception) {
    case 'value':
      return 'was refused: the unit does not take this value';
    case 'failure':
      return 'was refused: the unit is locked or running';
    default:
      return 'was refused: the unit does not let it be written';
  }
}

function faultWords(fault: LineFault): string {
  switch (fault.code) {
    case 'no-connection':
      return 'the gateway does not accept a connection';
    case 'no-answer':
    case 'late':
      return 'the unit does not answer in time';
    case 'broke-off':
      return 'the connection broke off';
    case 'wrong-answer':
      return 'the answer does not belong to the request';
    case 'refused':
      return 'the unit refuses';
    case 'busy':
      return 'the unit is busy';
  }
}
