// Carries out a write plan on a unit: guard, backup, writes with read-back, permanent save, backup, comparison with
// what was predicted. Every step is persisted before and after it is done; the state of the unit is never assumed.

import { toldBy } from '../lines/identity.ts';
import { Injectable, Logger, type OnModuleInit } from '@nestjs/common';
import type { OutcomeCode, WritePlanState } from '@drive-keep/api';
import { isUnreadable } from '@drive-keep/core/values';
import { compareSets, type ComparisonOptions, type ComparisonRow } from '@drive-keep/core/compare';
import type { Dictionary } from '@drive-keep/core/dictionary';
import { describeCutOff } from '@drive-keep/core/plans';
import type { ParameterSet } from '@drive-keep/core/sets';
import { DataSource, type EntityManager } from 'typeorm';
import { Dictionaries } from '../catalogue/dictionaries.service.ts';
import { JobRuns } from '../jobs/job-runs.service.ts';
import { Jobs } from '../jobs/jobs.service.ts';
import { Lines, waitedTooLong } from '../lines/lines.service.ts';
import type { UnitAtLine, UnitOnLine } from '../lines/unit-at-line.ts';
import type { UnitReading } from '../lines/unit-reader.ts';
import { Logbook } from '../logbook/logbook.service.ts';
import type { Backup } from '../sets/backup.entity.ts';
import { Backups } from '../sets/backups.service.ts';
import { ContentStore } from '../sets/content-store.service.ts';
import { holdsUnread, holdsWhenRead, isTouched } from './unit-holds.ts';
import { WriteGuard } from './write-guard.service.ts';
import { cutOffsOf } from './write-plan-view.ts';
import type { StoredWritePlan } from './write-plan.entity.ts';
import { WritePlans } from './write-plans.service.ts';
import type { StoredWriteStep } from './write-step.entity.ts';

/** The end of a plan before its time. `refused` means that nothing was written. */
export class PlanEnd extends Error {
  constructor(
    readonly state: Extract<WritePlanState, 'refused' | 'failed'>,
    text: string,
  ) {
    super(text);
  }
}

/** A plan in the hands of its worker. */
export interface Writing {
  readonly plan: StoredWritePlan;
  readonly person: string;
  readonly jobId: string;
  /** Place of the unit in the job. */
  readonly place: number;
  readonly unit: UnitOnLine;
  readonly stopped: () => boolean;
  /** Codes that the unit would not tell before and does not tell after: nothing of them is proven. */
  readonly untold: Set<string>;
}

/** The same while the line is held. */
export type WritingAt = Writing & { readonly at: UnitAtLine };

/**
 * What speaks against the unit: a value that it would not tell before the plan either says nothing new. It is noted, so that
 * nobody is told that it was proven.
 */
function toldRows(
  { untold }: Writing,
  rows: readonly ComparisonRow[],
  { readings }: ParameterSet,
): readonly ComparisonRow[] {
  const isUntold = ({ code, b }: ComparisonRow) => isUnreadable(b) && isUnreadable(readings.get(code));
  for (const row of rows) if (isUntold(row)) untold.add(row.code);
  return rows.filter((row) => !isUntold(row));
}

const OUTCOMES: Readonly<Record<'done' | 'refused' | 'failed', OutcomeCode>> = {
  done: 'kept',
  refused: 'stopped',
  failed: 'failed',
};

@Injectable()
export class WriteRun implements OnModuleInit {
  private readonly logger = new Logger('WriteRun');

  constructor(
    private readonly dataSource: DataSource,
    private readonly plans: WritePlans,
    private readonly guard: WriteGuard,
    private readonly jobs: Jobs,
    private readonly runs: JobRuns,
    private readonly dictionaries: Dictionaries,
    private readonly backups: Backups,
    private readonly contents: ContentStore,
    private readonly lines: Lines,
    private readonly logbook: Logbook,
  ) {}

  onModuleInit(): void {
    this.jobs.endAlong('write', this.plans);
  }

  async serve(): Promise<void> {
    await this.runs.serve('write', (jobId, stopped) => this.run(jobId, stopped));
  }

  private async run(jobId: string, stopped: () => boolean): Promise<void> {
    const job = await this.jobs.load(jobId);
    const id = await this.plans.idOfJob(jobId);
    const writing = await this.open(id, { person: job.requestedBy, stopped, jobId, place: 0 });
    const total = writing.plan.steps.length;
    await this.jobs.progress(jobId, 0, { state: 'reading', done: 0, total });
    await this.atUnit(writing, async (at) => {
      try {
        await this.carryOut(at);
        await this.end(at, 'done', doneText(at));
      } catch (error) {
        await this.fail(at, error);
      }
    });
  }

  /** Makes a plan ready to be carried out. */
  async open(id: string, job: Pick<Writing, 'person' | 'stopped' | 'jobId' | 'place'>): Promise<Writing> {
    const plan = await this.plans.load(id);
    const { line, lineAddress, serial, dictionaryId } = plan.unit;
    if (!line || lineAddress === null) throw new Error('a plan without a line was started');
    const dictionary = await this.dictionaries.get(dictionaryId);
    const { tag } = plan.position;
    return { plan, ...job, untold: new Set(), unit: { tag, line, address: lineAddress, serial, dictionary } };
  }

  /** Waits for the line of the unit and does the work there. */
  atUnit = <T>(writing: Writing, work: (at: WritingAt) => Promise<T>): Promise<T> =>
    this.lines.withUnit(writing.unit, 'write', (at) => work({ ...writing, at }));

  /** Ends a plan before its time, and says with which words. */
  async fail(writing: Writing | WritingAt, error: unknown): Promise<PlanEnd> {
    const end = error instanceof PlanEnd ? error : this.ownFault(error);
    const held = isTouched(writing.plan) && 'at' in writing ? await this.lookAfter(writing) : undefined;
    await this.end(writing, end.state, end.message, held);
    return end;
  }

  private ownFault(error: unknown): PlanEnd {
    this.logger.error(error instanceof Error ? (error.stack ?? error.message) : String(error));
    return new PlanEnd(
      'failed',
      'Something went wrong inside Drive Keep. Write the rest or go back, from what the unit holds now.',
    );
  }

  private async carryOut(writing: WritingAt): Promise<void> {
    await this.prepare(writing);
    await this.writeAll(writing);
    await this.save(writing);
    if (writing.plan.restartCheck) await this.restart(writing);
    await this.verify(writing);
  }

  /** Backs the unit up and makes sure that it holds what was planned from. Nothing has been written when it ends here. */
  async prepare(writing: WritingAt): Promise<void> {
    const late = waitedTooLong(writing.at.turn) ?? (await this.objectionOf(writing));
    if (late !== undefined) throw new PlanEnd('refused', `${late} Nothing was written.`);
    const before = await this.backUp(writing, 'before-write', 'refused');
    await this.plans.update(writing.plan.id, { backupBefore: before.backup.id });
    await this.requireUnchanged(writing, before.reading);
  }

  async writeAll(writing: WritingAt): Promise<void> {
    const { steps } = writing.plan;
    const reset = steps.filter(({ phase }) => phase === 'reset');
    for (const step of reset) await this.step(writing, step);
    await this.requireDefaults(writing);
    for (const step of steps.slice(reset.length)) await this.step(writing, step);
  }

  async save(writing: WritingAt): Promise<void> {
    const { plan, at } = writing;
    await this.requireMay(writing, 'The writes were not saved permanently.');
    plan.saveBegun = true;
    await this.plans.update(plan.id, { saveBegun: true });
    await this.prove(at.writer.save());
    plan.saved = true;
    await this.plans.update(plan.id, { saved: true });
  }

  private async restart(writing: WritingAt): Promise<void> {
    await this.requireMay(writing, 'The writes are saved; the unit was not restarted.');
    await this.prove(writing.at.writer.restart());
  }

  /** Reads the unit and holds it against what was predicted. */
  async verify(writing: WritingAt): Promise<void> {
    const after = await this.backUp(writing, 'after-write', 'failed');
    await this.plans.update(writing.plan.id, { backupAfter: after.backup.id });
    await this.requirePredicted(writing, after.reading);
  }

  private async prove(trouble: Promise<string | undefined>): Promise<void> {
    const text = await trouble;
    if (text !== undefined) throw new PlanEnd('failed', text);
  }

  /** What is against any write at this moment: in the record first, then at the unit. */
  private async objectionOf({ plan, unit, at, stopped }: WritingAt): Promise<string | undefined> {
    if (stopped()) return 'Somebody stopped it.';
    if (at.turn.lost) return 'The server lost its hold on the line.';
    const { line, address } = unit;
    return this.guard.objection({ planId: plan.id, lineId: line.id, address });
  }

  private async requireMay(writing: WritingAt, rest: string): Promise<void> {
    const { plan, at } = writing;
    const objection = (await this.objectionOf(writing)) ?? (await at.writer.objection(plan.position.tag));
    if (objection === undefined) return;
    const nothingYet = !isTouched(plan);
    throw new PlanEnd(
      nothingYet ? 'refused' : 'failed',
      `${objection} ${nothingYet ? 'Nothing was written.' : rest}`,
    );
  }

  /** Reads the whole unit, which also proves its model and serial number. */
  private async read(
    { at, stopped }: WritingAt,
    state: 'refused' | 'failed',
    rest: string,
  ): Promise<UnitReading> {
    const read = await at.read({ progress: () => undefined, stopped });
    if (read.ok) return read.value;
    const why = at.describe(read.fault).replace('Nothing was kept.', '').trim();
    throw new PlanEnd(state, `${why} ${rest}`);
  }

  /** What the unit holds at this moment. */
  async readNow(writing: WritingAt): Promise<ParameterSet> {
    return (await this.read(writing, 'failed', 'Look at the unit.')).set;
  }

  private async backUp(
    writing: WritingAt,
    how: 'before-write' | 'after-write',
    state: 'refused' | 'failed',
  ): Promise<{ reading: UnitReading; backup: Backup }> {
    const rest = state === 'refused' ? 'Nothing was written.' : 'The writes are saved, but not proven.';
    const reading = await this.read(writing, state, rest);
    const reason =
      how === 'before-write' ? 'Before a write plan' : `After a write plan towards ${writing.plan.target}`;
    return { reading, backup: await this.keep(writing, reading, how, reason) };
  }

  private keep(
    { plan, person: takenBy }: Writing,
    { set, aside, identity }: UnitReading,
    how: 'before-write' | 'after-write',
    reason: string,
  ): Promise<Backup> {
    const { unit, position } = plan;
    return this.backups.keep({ position, unit, set, aside, takenBy, how, reason, ...toldBy(identity, unit) });
  }

  /** Reads the unit once more after a plan that broke off: what is said of it is what it then holds. */
  private async lookAfter(writing: WritingAt): Promise<string | undefined> {
    const { plan, unit, at } = writing;
    if (at.turn.lost) return undefined;
    try {
      const read = await at.read();
      if (!read.ok) return undefined;
      const backup = await this.keep(writing, read.value, 'after-write', 'After a write plan that broke off');
      await this.plans.update(plan.id, { backupAfter: backup.id });
      return holdsWhenRead(plan, unit.dictionary, read.value.set);
    } catch (error) {
      this.logger.error(String(error));
      return undefined;
    }
  }

  private async requireUnchanged(writing: WritingAt, { set }: UnitReading): Promise<void> {
    const { plan, unit } = writing;
    const basis = await this.contents.get(plan.basisHash);
    const rows = toldRows(writing, compareSets(unit.dictionary, basis, set).rows, basis);
    if (rows.length === 0) return;
    const codes = rows.map((row) => row.code).join(', ');
    const text = `The unit holds other values than when this was planned (${codes}). Look at the newest backup and plan again. Nothing was written.`;
    throw new PlanEnd('refused', text);
  }

  private async requirePredicted(writing: WritingAt, { set }: UnitReading): Promise<void> {
    const { plan, unit } = writing;
    const predicted = await this.contents.get(plan.predictedHash);
    const basis = await this.contents.get(plan.basisHash);
    const compared = compareSets(unit.dictionary, predicted, set, unsaidBy(unit.dictionary, predicted));
    const rows = toldRows(writing, compared.rows, basis);
    if (rows.length === 0) return;
    const codes = rows.map((row) => row.code).join(', ');
    throw new PlanEnd(
      'failed',
      `After the writes the unit holds other values than planned: ${codes}. Look at the newest backup.`,
    );
  }

  /** One step, stored before and after it is done. */
  private async step(writing: WritingAt, step: StoredWriteStep): Promise<void> {
    const { plan, at } = writing;
    await this.requireMay(writing, `${step.code} was not written any more.`);
    step.state = 'writing';
    await this.plans.updateStep(plan.id, step.place, { state: 'writing' });
    const written = await at.writer.write(step);
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
  private async requireDefaults(writing: WritingAt): Promise<void> {
    const { plan, unit } = writing;
    if (plan.resetHash === null) return;
    const { set } = await this.read(writing, 'failed', 'The reset was started, but is not proven.');
    const defaults = await this.contents.get(plan.resetHash);
    const basis = await this.contents.get(plan.basisHash);
    const compared = compareSets(unit.dictionary, defaults, set, unsaidBy(unit.dictionary, defaults));
    const rows = toldRows(writing, compared.rows, basis);
    if (rows.length === 0) return;
    const codes = rows.map((row) => row.code).join(', ');
    throw new PlanEnd(
      'failed',
      `After the reset these do not hold their defaults: ${codes}. Nothing was put back yet.`,
    );
  }

  /** The plan, its place in the job and the logbook end together. `held` says what the unit holds, where that is known. */
  async end(
    writing: Writing,
    state: 'done' | 'refused' | 'failed',
    text: string,
    held = holdsUnread(writing.plan, writing.unit.dictionary),
  ): Promise<void> {
    const { plan, jobId, place } = writing;
    const holds = state === 'done' ? '' : held;
    await this.dataSource.transaction(async (manager) => {
      // Whoever has given it up meanwhile has said how it ended.
      if (!(await this.plans.close(manager, plan.id, { state, text, holds }))) return;
      await this.note(manager, writing, state, `${text} ${holds}`.trim());
      await this.jobs.endItem(jobId, place, OUTCOMES[state], text, { manager });
    });
  }

  private async note(
    manager: EntityManager,
    { plan, person }: Writing,
    state: 'done' | 'refused' | 'failed',
    text: string,
  ): Promise<void> {
    const action = state === 'done' ? 'written' : `write-${state}`;
    const steps = plan.steps.map(({ code, fromReading, toRaw, state: step }) => ({
      code,
      fromReading,
      toRaw,
      step,
    }));
    const { tag } = plan.position;
    await this.logbook.write({ person, action, tag, text, facts: { plan: plan.id, steps } }, manager);
  }
}

export function doneText({ plan, unit, untold }: Pick<Writing, 'plan' | 'unit' | 'untold'>): string {
  const { steps, kind, restartCheck } = plan;
  const writes = steps.filter(({ phase }) => phase !== 'reset').length;
  const values = writes === 1 ? '1 value' : `${writes} values`;
  const reset = kind === 'reset' ? 'Reset, defaults proven. ' : '';
  const proof = restartCheck ? ' Still there after a restart.' : '';
  const written = writes === 0 ? 'Nothing had to be written' : `${values} written, read back`;
  const kept = unit.dictionary.line?.save ? 'saved permanently' : 'kept by the unit at once';
  const byHand = cutOffsOf(plan, unit.dictionary).map((each) => ` ${describeCutOff(each)}`);
  const refused =
    untold.size === 0
      ? ''
      : ` ${[...untold].join(', ')} cannot be read at this unit: nothing of that is proven.`;
  return `${reset}${written}, ${kept}.${proof}${refused}${byHand.join('')}`;
}

/** Defaults that no maker tells: after a reset nobody can say what they should be, unless they were put back. */
const unsaidBy = ({ parameters }: Dictionary, { readings }: ParameterSet): ComparisonOptions => ({
  noise: false,
  untold: new Set(
    parameters
      .filter(({ code, untold }) => untold.includes('default') && !readings.has(code))
      .map(({ code }) => code),
  ),
});
