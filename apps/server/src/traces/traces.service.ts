// Traces as they are kept: recorded in pieces, closed to one packed whole, and never changed after that.

import { createHash } from 'node:crypto';
import { deflateRawSync, inflateRawSync } from 'node:zlib';
import { Injectable } from '@nestjs/common';
import type { TraceListing, TraceMarker, TraceView } from '@drive-keep/api';
import { EMPTY, packTrace, unpackTrace, type Trace, type TraceSignal } from '@drive-keep/core/signals';
import { DataSource, type DeepPartial } from 'typeorm';
import { notFound, ProblemException } from '../problems/problem.ts';
import { Register } from '../register/register.service.ts';
import { Clock } from '../storage/clock.ts';
import { isUuid } from '../storage/uuid.ts';
import { KeptTrace } from './trace.entity.ts';

/** A recording from which nothing has come for so long belongs to a server that has ended. */
const ORPHANED_MS = 20_000;
const ENDED = 'The server ended while it was recorded; what had come in until then is kept.';

@Injectable()
export class Traces {
  constructor(
    private readonly dataSource: DataSource,
    private readonly register: Register,
    private readonly clock: Clock,
  ) {}

  async listing(tag: string): Promise<readonly TraceListing[]> {
    const { position } = await this.register.unitAt(tag);
    await this.closeOrphaned();
    const found = await this.rows.find({ where: { positionId: position.id }, order: { beganAt: 'DESC' } });
    return found.map(listed);
  }

  async view(id: string): Promise<TraceView> {
    await this.closeOrphaned();
    const trace = await this.get(id);
    const [position]: { tag: string; duty: string }[] = await this.dataSource.query(
      'select tag, duty from position where id = $1',
      [trace.positionId],
    );
    return {
      ...listed(trace),
      ...{ tag: position?.tag ?? '', duty: position?.duty ?? '', dictionary: trace.dictionaryId },
      serial: trace.serial === null ? null : Number(trace.serial),
      ...{ everyMs: trace.everyMs, seconds: trace.seconds, settings: trace.settings, markers: trace.markers },
    };
  }

  async begin(row: DeepPartial<KeptTrace>): Promise<KeptTrace> {
    const { id } = await this.rows.save(this.rows.create({ ...row, state: 'recording' }));
    return this.get(id);
  }

  /** All that has come in until now; a kept one is checked against its hash. */
  async samples(id: string): Promise<Trace> {
    const trace = await this.get(id);
    if (trace.state === 'recording') return joined(trace.signals, await this.pieces(trace));
    const [row]: { samples: Buffer }[] = await this.dataSource.query(
      'select samples from trace where id = $1',
      [id],
    );
    const bytes = row && row.samples;
    if (!bytes || hashOf(trace, bytes) !== trace.hash) throw damaged(trace);
    const read = unpackTrace(trace.signals, inflateRawSync(bytes));
    if (!read.ok) throw damaged(trace);
    return read.value;
  }

  /** Kept ones that are not what was kept. */
  async damaged(): Promise<readonly { readonly tag: string; readonly title: string }[]> {
    const rows: { id: string; tag: string; title: string }[] = await this.dataSource.query(
      `select t.id, p.tag, t.title from trace t join position p on p.id = t.position_id
        where t.state = 'kept' order by t.began_at`,
    );
    const found: { tag: string; title: string }[] = [];
    for (const { id, tag, title } of rows)
      if (!(await this.samples(id).then(Boolean, () => false))) found.push({ tag, title });
    return found;
  }

  /** All or nothing: what was not kept comes again with the next piece. A trace that is closed takes none any more. */
  async addPiece(
    id: string,
    number: number,
    piece: Trace,
    markers: readonly TraceMarker[],
  ): Promise<{ stop: boolean }> {
    const bytes = Buffer.from(packTrace(piece));
    return this.dataSource.transaction(async (manager) => {
      const [[row]]: [{ stop_requested: boolean }[]] = await manager.query(
        `update trace set last_piece_at = $2, markers = $3, count = count + $4 where id = $1 and state = 'recording'
         returning stop_requested`,
        [id, this.clock.now(), JSON.stringify(markers), piece.times.length],
      );
      if (!row) return { stop: true };
      const insert = 'insert into trace_piece (trace_id, number, samples) values ($1, $2, $3)';
      await manager.query(insert, [id, number, bytes]);
      return { stop: row.stop_requested };
    });
  }

  async requestStop(id: string): Promise<void> {
    await this.get(id);
    await this.rows.update({ id, state: 'recording' }, { stopRequested: true });
  }

  /** The pieces become one whole; whoever comes second finds it kept. */
  async close(id: string, why: string): Promise<void> {
    const trace = await this.get(id);
    if (trace.state === 'kept') return;
    const whole = joined(trace.signals, await this.pieces(trace));
    const ended = new Date(trace.beganAt.getTime() + (whole.times.at(-1) ?? 0));
    await this.dataSource.transaction(async (manager) => {
      const samples = deflateRawSync(packTrace(whole));
      const row = { ...trace, endedAt: ended, endedWhy: why, count: whole.times.length };
      await manager.update(
        KeptTrace,
        { id, state: 'recording' },
        {
          ...{
            state: 'kept',
            endedAt: ended,
            endedWhy: why,
            count: row.count,
            samples,
            hash: hashOf(row, samples),
          },
        },
      );
      await manager.query('delete from trace_piece where trace_id = $1', [id]);
    });
  }

  /** A trace that came as a whole. */
  async keep(row: DeepPartial<KeptTrace>, trace: Trace): Promise<string> {
    const samples = deflateRawSync(packTrace(trace));
    const made = this.rows.create({
      endedWhy: '',
      markers: [],
      ...row,
      state: 'kept',
      count: trace.times.length,
      samples,
    });
    const saved = await this.rows.save({ ...made, hash: hashOf(made, samples) });
    return saved.id;
  }

  private async closeOrphaned(): Promise<void> {
    const before = new Date(this.clock.now().getTime() - ORPHANED_MS);
    const lost: { id: string }[] = await this.dataSource.query(
      `select id from trace where state = 'recording' and coalesce(last_piece_at, began_at) < $1`,
      [before],
    );
    for (const { id } of lost) await this.close(id, ENDED);
  }

  private async get(id: string): Promise<KeptTrace> {
    const found = isUuid(id) ? await this.rows.findOneBy({ id }) : null;
    if (!found) throw notFound('This trace');
    return found;
  }

  private async pieces(trace: KeptTrace): Promise<readonly Trace[]> {
    const rows: { samples: Buffer }[] = await this.dataSource.query(
      'select samples from trace_piece where trace_id = $1 order by number',
      [trace.id],
    );
    return rows.map(({ samples }) => {
      const read = unpackTrace(trace.signals, samples);
      if (!read.ok) throw damaged(trace);
      return read.value;
    });
  }

  private get rows() {
    return this.dataSource.getRepository(KeptTrace);
  }
}

function joined(signals: readonly TraceSignal[], pieces: readonly Trace[]): Trace {
  if (pieces.length === 0) return EMPTY(signals);
  return {
    signals,
    times: pieces.flatMap(({ times }) => times),
    values: signals.map((_, at) => pieces.flatMap(({ values }) => values[at] ?? [])),
  };
}

/** Over everything that somebody could mistake: what was watched, when, by whom, and the samples. */
function hashOf(trace: KeptTrace, samples: Buffer): string {
  const { positionId, dictionaryId, serial, title, signals, beganAt, beganBy, endedWhy, markers } = trace;
  const facts = [
    positionId,
    dictionaryId,
    serial === null ? null : String(serial),
    title,
    beganAt.toISOString(),
    beganBy,
    endedWhy,
  ];
  const named = signals.map(({ meaning, code, unit, step, places }) => [meaning, code, unit, step, places]);
  const told = markers.map(({ at, text }) => [at, text]);
  const hash = createHash('sha256')
    .update(JSON.stringify([facts, named, told]))
    .update(samples);
  return `sha256:${hash.digest('hex')}`;
}

const damaged = ({ title }: KeptTrace): ProblemException =>
  new ProblemException(
    500,
    'trace-damaged',
    `The kept trace “${title}” is damaged: nothing of it is shown. Restore a copy of the database.`,
  );

const listed = (trace: KeptTrace): TraceListing => ({
  ...{
    id: trace.id,
    title: trace.title,
    state: trace.state,
    beganBy: trace.beganBy,
    endedWhy: trace.endedWhy,
  },
  beganAt: trace.beganAt.toISOString(),
  endedAt: trace.endedAt?.toISOString() ?? null,
  signals: trace.signals,
  samples: trace.count,
});
