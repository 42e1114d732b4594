// Carries out a backup job: lines at the same time, the units of a line one after the other, each to its own outcome.

import { toldBy, UNTOLD } from '../lines/identity.ts';
import { Injectable, Logger, type OnModuleInit } from '@nestjs/common';
import type { OutcomeCode } from '@drive-keep/api';
import { unreadableCount } from '@drive-keep/core/sets';
import { DataSource } from 'typeorm';
import { Dictionaries } from '../catalogue/dictionaries.service.ts';
import type { JobItem } from '../jobs/job-item.entity.ts';
import { JobRuns } from '../jobs/job-runs.service.ts';
import { Jobs, type Hanging } from '../jobs/jobs.service.ts';
import type { DriveLine } from '../lines/drive-line.ts';
import { outcomeOf } from '../lines/line-text.ts';
import { Lines } from '../lines/lines.service.ts';
import { UnitAtLine } from '../lines/unit-at-line.ts';
import type { UnitReading } from '../lines/unit-reader.ts';
import { Logbook } from '../logbook/logbook.service.ts';
import { Backups } from '../sets/backups.service.ts';
import { FoundAgain } from '../sets/found-again.service.ts';

interface TimedReading {
  readonly reading: UnitReading;
  /** When the unit had been read; the backup may be kept a moment later. */
  readonly at: Date;
}

/** Progress is for eyes: writing it down for every request, or for a unit that is read at once, would cost more than reading. */
const PROGRESS_MS = 100;

/** A unit of a backup is told with its job; nothing else waits for it. */
const NOTHING_HANGS: Hanging = {
  endWithJob: (_manager, _jobId, how) =>
    Promise.resolve(
      how === 'stopped'
        ? 'Stopped before it began.'
        : 'The server was interrupted before this unit was done. Nothing half-read was kept. Run it again.',
    ),
  leftBehind: () => Promise.resolve([]),
};

interface RunContext {
  readonly jobId: string;
  readonly reason: string;
  readonly person: string;
  readonly stopped: () => boolean;
}

@Injectable()
export class BackupRun implements OnModuleInit {
  private readonly logger = new Logger('BackupRun');

  constructor(
    private readonly dataSource: DataSource,
    private readonly jobs: Jobs,
    private readonly runs: JobRuns,
    private readonly dictionaries: Dictionaries,
    private readonly backups: Backups,
    private readonly lines: Lines,
    private readonly logbook: Logbook,
    private readonly foundAgain: FoundAgain,
  ) {}

  onModuleInit(): void {
    this.jobs.endAlong('backup', NOTHING_HANGS);
  }

  async serve(): Promise<void> {
    await this.runs.serve('backup', (jobId, stopped) => this.run(jobId, stopped));
    this.runs.whenSwept(() => this.foundAgain.recordEnded());
  }

  private async run(jobId: string, stopped: () => boolean): Promise<void> {
    const job = await this.jobs.load(jobId);
    const context = { jobId, reason: job.reason, person: job.requestedBy, stopped };
    const byLine = groupByLine(job.items);
    await Promise.all([...byLine.values()].map((items) => this.runLine(items, context)));
    await this.foundAgain.recordJob(jobId);
  }

  /** The line goes on to the next unit while what was read of the one before is kept. */
  private async runLine(items: readonly JobItem[], context: RunContext): Promise<void> {
    const keeping: Promise<void>[] = [];
    const line = items[0]?.unit.line;
    const one = async (item: JobItem, drive?: DriveLine): Promise<void> => {
      const reading = await this.guarded(item, context, () => this.readItem(item, drive, context));
      if (reading) keeping.push(this.guarded(item, context, () => this.keep(item, reading, context)));
    };
    if (line) await this.lines.forEach(line, 'round', items, one);
    else for (const item of items) await one(item);
    await Promise.all(keeping);
  }

  /** A fault of our own ends this unit alone. */
  private async guarded<T>(
    item: JobItem,
    { jobId }: RunContext,
    work: () => Promise<T>,
  ): Promise<T | undefined> {
    try {
      return await work();
    } catch (error) {
      this.logger.error(error instanceof Error ? (error.stack ?? error.message) : String(error));
      const text = 'Something went wrong inside Drive Keep while this unit was read. Nothing was kept.';
      // Where that cannot be written down either, the database is gone, and the sweep ends the unit when it is back.
      await this.jobs
        .endItem(jobId, item.place, 'failed', text)
        .catch((again: unknown) => this.logger.error(String(again)));
      return undefined;
    }
  }

  /** What the unit holds; nothing where the item has ended another way. */
  private async readItem(
    item: JobItem,
    drive: DriveLine | undefined,
    { jobId, stopped }: RunContext,
  ): Promise<TimedReading | undefined> {
    const { position } = item.unit;
    const end = async (outcome: OutcomeCode, text: string, foundSerial: string | null = null) => {
      await this.jobs.endItem(jobId, item.place, outcome, text, { foundSerial });
      return undefined;
    };
    if (stopped()) return end('stopped', 'Stopped before this unit was read.');
    const { line } = item.unit;
    if (!line || !drive) return end('no-line', `${position.tag} has no line; it is read off at the keypad.`);
    const { serial, lineAddress, dictionaryId } = item.unit;
    const dictionary = await this.dictionaries.get(dictionaryId);
    const unit = { tag: position.tag, line, address: lineAddress ?? 0, serial, dictionary };
    const at = new UnitAtLine(unit, drive, { waitedMs: 0, lost: false });
    const read = await this.readFrom(at, item, { jobId, stopped });
    if (read.ok) return { reading: read.value, at: new Date() };
    const found = read.fault.code === 'other-serial' ? String(read.fault.found) : null;
    return end(outcomeOf(read.fault), at.describe(read.fault), found);
  }

  private async readFrom(
    at: UnitAtLine,
    { place }: JobItem,
    { jobId, stopped }: Pick<RunContext, 'jobId' | 'stopped'>,
  ) {
    // That it was begun is written before how it ended.
    let telling = Promise.resolve();
    const begun = setTimeout(() => {
      telling = this.jobs.progress(jobId, place, { state: 'reading' }).catch(() => undefined);
    }, PROGRESS_MS);
    const progress = atMostEvery(
      PROGRESS_MS,
      (done: number, total: number) =>
        void this.jobs.progress(jobId, place, { done, total }).catch(() => undefined),
    );
    try {
      return await at.read({ progress, stopped });
    } finally {
      clearTimeout(begun);
      await telling;
    }
  }

  private async keep(
    item: JobItem,
    { reading, at }: TimedReading,
    { jobId, person, reason }: RunContext,
  ): Promise<void> {
    const { unit } = item;
    const { position } = unit;
    const { set, aside, identity } = reading;
    const untold = identity.serial === null ? ` ${UNTOLD}` : '';
    const from = { ...toldBy(identity, unit), takenAt: at, how: 'read' as const, takenBy: person };
    const what = { position, unit, set, aside, reason: `${reason}${untold && `.${untold}`}`, ...from };
    const unreadable = unreadableCount(set);
    const gaps = unreadable > 0 ? ` ${unreadable} were refused by the unit and are kept as unreadable.` : '';
    // Kept, written down and told in one: a unit is never told as not kept whose backup is there.
    await this.dataSource.transaction(async (manager) => {
      const { backupId, found } = await this.backups.keepOrFind(what, manager);
      const text = `${set.readings.size} parameters.${gaps}${untold}${found ? ' Same as the backup before.' : ''}`;
      // What was found again is told with the rest of the job.
      if (!found) {
        const note = { person, action: 'backed-up' as const, tag: position.tag, text: `Backed up: ${text}` };
        await this.logbook.write({ ...note, facts: { backup: backupId } }, manager);
      }
      const kept = { manager, backupId, ...(found ? { foundAgain: 'to-record' as const } : {}) };
      await this.jobs.endItem(jobId, item.place, unreadable > 0 ? 'kept-with-gaps' : 'kept', text, kept);
    });
  }
}

/** Passes a call on if the one before it is long enough ago. */
function atMostEvery<A extends unknown[]>(ms: number, call: (...args: A) => void): (...args: A) => void {
  let last = performance.now();
  return (...args) => {
    if (performance.now() - last < ms) return;
    last = performance.now();
    call(...args);
  };
}

function groupByLine(items: readonly JobItem[]): ReadonlyMap<string, readonly JobItem[]> {
  const lines = new Map<string, JobItem[]>();
  for (const item of items) {
    const line = item.unit.line?.id ?? '';
    lines.set(line, [...(lines.get(line) ?? []), item]);
  }
  return lines;
}
