// Carries out a backup job: lines at the same time, the units of a line one after the other, each to its own outcome.

import { Injectable, Logger } from '@nestjs/common';
import { Dictionaries, lineFactsOf } from '../catalogue/dictionaries.service.ts';
import type { JobItem } from '../jobs/job-item.entity.ts';
import { JobQueue } from '../jobs/job-queue.service.ts';
import { Jobs } from '../jobs/jobs.service.ts';
import { LineLock } from '../line/line-lock.ts';
import { describeFault, outcomeOf } from '../line/line-text.ts';
import { ModbusLine } from '../line/modbus-line.ts';
import { readUnit, type UnitReading } from '../line/unit-reader.ts';
import { Logbook } from '../logbook/logbook.service.ts';
import type { Line } from '../register/line.entity.ts';
import { Backups } from '../sets/backups.service.ts';

/** Progress is for eyes: writing it down for every request would cost more than the requests. */
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
  ) {}

  async serve(): Promise<void> {
    await this.queue.serve('backup', (jobId, stopped) => this.run(jobId, stopped));
  }

  private async run(jobId: string, stopped: () => boolean): Promise<void> {
    const job = await this.jobs.load(jobId);
    const context = { jobId, reason: job.reason, person: job.requestedBy, stopped };
    const byLine = groupByLine(job.items);
    await Promise.all([...byLine.values()].map((items) => this.runLine(items, context)));
  }

  private async runLine(items: readonly JobItem[], context: RunContext): Promise<void> {
    for (const item of items) {
      try {
        await this.runItem(item, context);
      } catch (error) {
        this.logger.error(error instanceof Error ? (error.stack ?? error.message) : String(error));
        const text = 'Something went wrong inside Drive Keep while this unit was read. Nothing was kept.';
        await this.jobs.endItem(context.jobId, item.place, 'failed', text);
      }
    }
  }

  private async runItem(item: JobItem, context: RunContext): Promise<void> {
    const { jobId, stopped } = context;
    const { line } = item.unit;
    if (stopped())
      return this.jobs.endItem(jobId, item.place, 'stopped', 'Stopped before this unit was read.');
    if (!line) {
      const text = `${item.unit.position.tag} has no line; it is read off at the keypad.`;
      return this.jobs.endItem(jobId, item.place, 'no-line', text);
    }
    await this.lock.hold(line.id, () => this.readItem(item, line, context));
  }

  private async readItem(item: JobItem, { host, port }: Line, context: RunContext): Promise<void> {
    const { jobId, stopped } = context;
    const { unit } = item;
    const dictionary = await this.dictionaries.get(unit.dictionaryId);
    await this.jobs.progress(jobId, item.place, { state: 'reading' });
    const progress = atMostEvery(
      PROGRESS_MS,
      (done: number, total: number) =>
        void this.jobs.progress(jobId, item.place, { done, total }).catch(() => undefined),
    );
    const line = new ModbusLine(host, port);
    const expected = { address: unit.lineAddress ?? 0, serial: unit.serial };
    const read = await readUnit(line, dictionary, lineFactsOf(dictionary), expected, { progress, stopped });
    line.close();
    if (read.ok) return this.keep(item, read.value, context);
    const name = { tag: unit.position.tag, serial: unit.serial, modelName: dictionary.name };
    await this.jobs.endItem(jobId, item.place, outcomeOf(read.fault), describeFault(read.fault, name));
  }

  private async keep(
    item: JobItem,
    reading: UnitReading,
    { jobId, person, reason }: RunContext,
  ): Promise<void> {
    const { unit } = item;
    const { position } = unit;
    const before = await this.backups.newest(position.id);
    const { set, aside, identity } = reading;
    const from = { serial: identity.serial, firmware: identity.firmware };
    const kept = await this.backups.keep({
      position,
      unit,
      set,
      aside,
      takenBy: person,
      how: 'read',
      reason,
      ...from,
    });
    const same = before?.contentHash === kept.contentHash ? ' Same as the backup before.' : '';
    const gaps =
      kept.unreadable > 0 ? ` ${kept.unreadable} were refused by the unit and are kept as unreadable.` : '';
    const text = `${set.readings.size} parameters.${gaps}${same}`;
    await this.logbook.write({
      person,
      action: 'backed-up',
      tag: position.tag,
      text: `Backed up: ${text}`,
      facts: { backup: kept.id },
    });
    await this.jobs.endItem(
      jobId,
      item.place,
      kept.unreadable > 0 ? 'kept-with-gaps' : 'kept',
      text,
      kept.id,
    );
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
