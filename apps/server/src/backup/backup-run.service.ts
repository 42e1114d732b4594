// Carries out a backup job: lines at the same time, the units of a line one after the other, each to its own outcome.

import { Injectable, Logger } from '@nestjs/common';
import type { OutcomeCode } from '@drive-keep/api';
import type { Dictionary } from '@drive-keep/core/dictionary';
import { unreadableCount } from '@drive-keep/core/sets';
import type { Result } from '@drive-keep/core/values';
import { Dictionaries, lineFactsOf } from '../catalogue/dictionaries.service.ts';
import type { JobItem } from '../jobs/job-item.entity.ts';
import { JobQueue } from '../jobs/job-queue.service.ts';
import { Jobs } from '../jobs/jobs.service.ts';
import { LineLock } from '../line/line-lock.ts';
import { describeFault, outcomeOf } from '../line/line-text.ts';
import { ModbusLine } from '../line/modbus-line.ts';
import { readUnit, type ReadFault, type UnitReading } from '../line/unit-reader.ts';
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

interface RunContext {
  readonly jobId: string;
  readonly reason: string;
  readonly person: string;
  readonly stopped: () => boolean;
}

@Injectable()
export class BackupRun {
  private readonly logger = new Logger('BackupRun');

  constructor(
    private readonly jobs: Jobs,
    private readonly queue: JobQueue,
    private readonly dictionaries: Dictionaries,
    private readonly backups: Backups,
    private readonly lock: LineLock,
    private readonly logbook: Logbook,
    private readonly foundAgain: FoundAgain,
  ) {}

  async serve(): Promise<void> {
    await this.queue.serve('backup', (jobId, stopped) => this.run(jobId, stopped));
    this.queue.whenSwept(() => this.foundAgain.recordEnded());
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
    const place = items[0]?.unit.line;
    const line = place ? new ModbusLine(place.host, place.port) : undefined;
    const one = async (item: JobItem): Promise<void> => {
      const reading = await this.guarded(item, context, () => this.readItem(item, line, context));
      if (reading) keeping.push(this.guarded(item, context, () => this.keep(item, reading, context)));
    };
    try {
      if (place) await this.lock.holdForEach(place.id, items, one);
      else for (const item of items) await one(item);
    } finally {
      line?.close();
    }
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
      await this.jobs.endItem(jobId, item.place, 'failed', text);
      return undefined;
    }
  }

  /** What the unit holds; nothing where the item has ended another way. */
  private async readItem(
    item: JobItem,
    line: ModbusLine | undefined,
    { jobId, stopped }: RunContext,
  ): Promise<TimedReading | undefined> {
    const { position } = item.unit;
    const end = async (outcome: OutcomeCode, text: string) => {
      await this.jobs.endItem(jobId, item.place, outcome, text);
      return undefined;
    };
    if (stopped()) return end('stopped', 'Stopped before this unit was read.');
    if (!line) return end('no-line', `${position.tag} has no line; it is read off at the keypad.`);
    const dictionary = await this.dictionaries.get(item.unit.dictionaryId);
    const read = await this.readFrom(line, dictionary, item, { jobId, stopped });
    if (read.ok) return { reading: read.value, at: new Date() };
    const name = { tag: position.tag, serial: item.unit.serial, modelName: dictionary.name };
    return end(outcomeOf(read.fault), describeFault(read.fault, name));
  }

  private async readFrom(
    line: ModbusLine,
    dictionary: Dictionary,
    { unit, place }: JobItem,
    { jobId, stopped }: Pick<RunContext, 'jobId' | 'stopped'>,
  ): Promise<Result<UnitReading, ReadFault>> {
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
    const expected = { address: unit.lineAddress ?? 0, serial: unit.serial };
    const control = { progress, stopped };
    try {
      return await readUnit(line, dictionary, lineFactsOf(dictionary), expected, control);
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
    const from = { serial: identity.serial, firmware: identity.firmware, takenAt: at };
    const what = { position, unit, set, aside, takenBy: person, how: 'read' as const, reason, ...from };
    const { backupId, found } = await this.backups.keepOrFind(what);
    const unreadable = unreadableCount(set);
    const gaps = unreadable > 0 ? ` ${unreadable} were refused by the unit and are kept as unreadable.` : '';
    const text = `${set.readings.size} parameters.${gaps}${found ? ' Same as the backup before.' : ''}`;
    // What was found again is told with the rest of the job.
    if (!found) {
      const note = { person, action: 'backed-up' as const, tag: position.tag, text: `Backed up: ${text}` };
      await this.logbook.write({ ...note, facts: { backup: backupId } });
    }
    await this.jobs.endItem(jobId, item.place, unreadable > 0 ? 'kept-with-gaps' : 'kept', text, {
      backupId,
      ...(found ? { foundAgain: 'to-record' } : {}),
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
