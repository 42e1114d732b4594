// Traces that somebody brings as a table: recorded elsewhere, or here before.

import { Injectable } from '@nestjs/common';
import { watchableOf } from '@drive-keep/core/live';
import { readTraceTable } from '@drive-keep/core/signals';
import type { Account } from '../access/account.entity.ts';
import { Dictionaries } from '../catalogue/dictionaries.service.ts';
import { tableFrom, type UploadedFile } from '../file-content/uploaded-file.ts';
import { Logbook } from '../logbook/logbook.service.ts';
import { findingLine, findingView } from '../problems/finding-view.ts';
import { ProblemException } from '../problems/problem.ts';
import { Register } from '../register/register.service.ts';
import { Clock } from '../storage/clock.ts';
import { traceSignal } from './trace-signals.ts';
import { Traces } from './traces.service.ts';

const MOST_FINDINGS = 20;
const UNTOLD = { rampUp: null, rampDown: null, top: null, roundUp: 0, roundDown: 0 };

@Injectable()
export class TraceFiles {
  constructor(
    private readonly register: Register,
    private readonly dictionaries: Dictionaries,
    private readonly traces: Traces,
    private readonly logbook: Logbook,
    private readonly clock: Clock,
  ) {}

  async bring(tag: string, file: UploadedFile, { person }: Account): Promise<string> {
    const { position, unit } = await this.register.unitAt(tag);
    const dictionary = await this.dictionaries.get(unit.dictionaryId);
    const { table } = await tableFrom(file);
    const read = readTraceTable(table, watchableOf(dictionary).signals.map(traceSignal));
    if (!read.ok) {
      const findings = read.fault.slice(0, MOST_FINDINGS).map(findingView).map(findingLine);
      const detail = `${file.originalname} is no trace as it stands: ${findings[0] ?? ''} Nothing was kept.`;
      throw new ProblemException(422, 'trace-file', detail, findings);
    }
    const now = this.clock.now();
    const last = read.value.times.at(-1) ?? 0;
    const id = await this.traces.keep(
      {
        ...{ positionId: position.id, dictionaryId: dictionary.id, serial: null, title: file.originalname },
        ...{ signals: read.value.signals, everyMs: 0, seconds: Math.ceil(last / 1000), settings: UNTOLD },
        ...{ beganAt: now, beganBy: person, endedAt: now, endedWhy: 'Brought as a file.', markers: [] },
      },
      read.value,
    );
    const text = `Brought the trace ${file.originalname} of ${tag}: ${read.value.times.length} samples.`;
    await this.logbook.write({ person, action: 'trace-kept', tag, text, facts: { trace: id } });
    return id;
  }
}
