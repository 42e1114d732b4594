// Records traces: follows what the one reader of a unit tells, keeps it in pieces of two seconds, and notes what happened.

import { Injectable, Logger, type OnApplicationShutdown } from '@nestjs/common';
import type { TraceMarker, TraceSettings } from '@drive-keep/api';
import {
  faultOf,
  findMeaning,
  type Code,
  type Dictionary,
  type Parameter,
} from '@drive-keep/core/dictionary';
import { watchableOf, type LiveSignal } from '@drive-keep/core/live';
import { MOST_SIGNALS, valueOf, type Sample, type Trace, type TraceSignal } from '@drive-keep/core/signals';
import { meaningOf } from '@drive-keep/core/values';
import { firstValueFrom, type Subscription } from 'rxjs';
import type { Account } from '../access/account.entity.ts';
import { Dictionaries } from '../catalogue/dictionaries.service.ts';
import { noLine } from '../lines/lines.service.ts';
import type { UnitOnLine } from '../lines/unit-at-line.ts';
import { UnitWatch, type Watched } from '../live/unit-watch.service.ts';
import { Logbook } from '../logbook/logbook.service.ts';
import { ProblemException } from '../problems/problem.ts';
import { Register } from '../register/register.service.ts';
import { Clock } from '../storage/clock.ts';
import { traceSignal } from './trace-signals.ts';
import { Traces } from './traces.service.ts';

export interface TraceWish {
  readonly title: string;
  /** As core/live names them. */
  readonly signals: readonly string[];
  readonly seconds: number;
}

/** Twenty times a second, where the line lets it. */
const EVERY_MS = 50;
const PIECE_MS = 2000;
/** Whether it runs and what fault it has is asked less often: it stands in other registers. */
const STATE_MS = 500;
const MOST_AT_ONCE = 8;
const SETTINGS = [
  'ramp.up',
  'ramp.down',
  'ramp.roundUp',
  'ramp.roundDown',
  'ramp.shape',
  'motor.baseFrequency',
  'frequency.maximum',
];

@Injectable()
export class TraceRecorder implements OnApplicationShutdown {
  private readonly logger = new Logger('TraceRecorder');
  private readonly going = new Map<string, Recording>();
  /** Begun a moment ago and not there yet: a double click is one trace. */
  private readonly starting = new Map<string, Promise<string>>();

  constructor(
    private readonly register: Register,
    private readonly dictionaries: Dictionaries,
    private readonly watch: UnitWatch,
    private readonly traces: Traces,
    private readonly logbook: Logbook,
    private readonly clock: Clock,
  ) {}

  start(tag: string, wish: TraceWish, account: Account): Promise<string> {
    const key = JSON.stringify([tag, account.id, wish]);
    const known = this.starting.get(key);
    if (known) return known;
    const started = this.begin(tag, wish, account).finally(() => this.starting.delete(key));
    this.starting.set(key, started);
    return started;
  }

  private async begin(tag: string, wish: TraceWish, { person }: Account): Promise<string> {
    const at = await this.register.unitAt(tag);
    const { line, lineAddress, serial, id, dictionaryId } = at.unit;
    if (!line) throw noLine(tag);
    const dictionary = await this.dictionaries.get(dictionaryId);
    const signals = signalsIn(dictionary, wish.signals);
    if (this.going.size >= MOST_AT_ONCE) {
      const detail = `${MOST_AT_ONCE} traces are being recorded at once. Wait until one of them has ended.`;
      throw new ProblemException(429, 'too-many-traces', detail);
    }
    const unit = { tag, line, address: lineAddress ?? 0, serial, dictionary };
    const settings = await this.settingsOf(id, unit);
    const beganAt = this.clock.now();
    const trace = await this.traces.begin({
      ...{ positionId: at.position.id, dictionaryId, serial: String(serial), title: wish.title, settings },
      ...{
        signals: signals.map(traceSignal),
        everyMs: EVERY_MS,
        seconds: wish.seconds,
        beganAt,
        beganBy: person,
      },
    });
    const recording = new Recording(
      trace.id,
      trace.signals,
      wish.seconds,
      beganAt.getTime(),
      this.traces,
      dictionary,
    );
    this.going.set(trace.id, recording);
    recording.follow(
      this.watch.watch(id, unit, {
        codes: signals.map(({ parameter }) => parameter.code),
        everyMs: EVERY_MS,
        status: false,
      }),
      this.watch.watch(id, unit, { codes: faultCodes(dictionary), everyMs: STATE_MS, status: true }),
    );
    void recording.ended
      .then((why) => this.end(trace.id, tag, why, person))
      .catch((error: unknown) => this.logger.error(`${tag}: ${String(error)}`));
    return trace.id;
  }

  async stop(id: string): Promise<void> {
    await this.traces.requestStop(id);
    await this.going.get(id)?.stop('Stopped by hand.');
  }

  async onApplicationShutdown(): Promise<void> {
    await Promise.all(
      [...this.going.values()].map((each) => each.stop('The server was shut down while it was recorded.')),
    );
  }

  private async end(id: string, tag: string, why: string, person: string): Promise<void> {
    this.going.delete(id);
    await this.traces.close(id, why);
    const { title, samples, beganAt, endedAt } = await this.traces.view(id);
    const seconds = (Date.parse(endedAt ?? beganAt) - Date.parse(beganAt)) / 1000;
    const text =
      `Recorded the trace “${title}” of ${tag}: ${samples} samples in ${seconds.toFixed(1)} s. ${why}`.trim();
    await this.logbook.write({ person, action: 'trace-kept', tag, text, facts: { trace: id } });
  }

  /** What the unit itself holds now, not what a backup says of it. */
  private async settingsOf(id: string, unit: UnitOnLine): Promise<TraceSettings> {
    const { dictionary } = unit;
    const known = SETTINGS.flatMap((meaning) => findMeaning(dictionary, meaningOf(meaning)) ?? []);
    const codes = known.filter(({ register }) => register !== null).map(({ code }) => code);
    const told = await firstValueFrom(
      this.watch.watch(id, unit, { codes, everyMs: EVERY_MS, status: false }),
    );
    if (told.kind === 'silent')
      throw new ProblemException(502, 'unit-silent', `${told.text} Nothing was recorded.`);
    return settingsIn(dictionary, told.values);
  }
}

class Recording {
  readonly ended: Promise<string>;
  private readonly signals: readonly TraceSignal[];
  private waiting: Sample[] = [];
  private readonly markers: TraceMarker[] = [];
  private number = 0;
  private last = -1;
  private runs: boolean | null = null;
  private fault = 0;
  private silent = false;
  private followed: readonly Subscription[] = [];
  private finish: (why: string) => void = () => undefined;
  private flushing: Promise<void> = Promise.resolve();
  private readonly timer: NodeJS.Timeout;

  constructor(
    private readonly id: string,
    signals: readonly TraceSignal[],
    private readonly seconds: number,
    private readonly begin: number,
    private readonly traces: Traces,
    private readonly dictionary: Dictionary,
  ) {
    this.signals = signals;
    this.ended = new Promise((resolve) => (this.finish = resolve));
    this.timer = setInterval(() => {
      this.flush();
      // A unit that is silent does not say when the time is over.
      if (Date.now() - this.begin > this.seconds * 1000 + PIECE_MS) void this.stop('');
    }, PIECE_MS);
  }

  follow(signals: ReturnType<UnitWatch['watch']>, state: ReturnType<UnitWatch['watch']>): void {
    this.followed = [
      signals.subscribe((told) => this.take(told)),
      state.subscribe((told) => told.kind === 'sample' && this.notice(told)),
    ];
  }

  async stop(why: string): Promise<void> {
    clearInterval(this.timer);
    for (const each of this.followed) each.unsubscribe();
    this.followed = [];
    this.flush();
    await this.flushing;
    this.finish(why);
  }

  private take(told: Watched): void {
    if (told.kind === 'silent') {
      if (!this.silent) this.mark(Date.now(), told.text);
      this.silent = true;
      return;
    }
    if (this.silent) this.mark(told.at, 'Answers again.');
    this.silent = false;
    const at = Math.max(this.last + 1, Math.round(told.at - this.begin));
    if (at > this.seconds * 1000) return void this.stop('');
    this.last = at;
    this.waiting.push({ at, values: this.signals.map(({ code }) => told.values.get(code as Code) ?? null) });
  }

  /** What happens beside the signals. */
  private notice({ at, runs, values }: Extract<Watched, { kind: 'sample' }>): void {
    if (runs !== null && this.runs !== null && runs !== this.runs) this.mark(at, runs ? 'Starts' : 'Stands');
    this.runs = runs;
    const [fault = 0] = values.values();
    if (fault !== this.fault && fault !== 0) {
      const known = faultOf(this.dictionary, fault);
      this.mark(at, known ? `Fault ${known.shown}: ${known.name}` : `Fault ${fault}`);
    }
    this.fault = fault;
  }

  private mark(at: number, text: string): void {
    this.markers.push({ at: Math.max(0, Math.round(at - this.begin)), text });
  }

  private flush(): void {
    const samples = this.waiting;
    this.waiting = [];
    const piece: Trace = {
      signals: this.signals,
      times: samples.map(({ at }) => at),
      values: this.signals.map((_, index) => samples.map(({ values }) => values[index] ?? null)),
    };
    const number = this.number;
    this.number += 1;
    this.flushing = this.flushing
      .then(() => this.traces.addPiece(this.id, number, piece, this.markers))
      .then(({ stop }) => {
        if (stop && this.followed.length > 0) void this.stop('Stopped by hand.');
      })
      .catch(() => {
        // The database is away for a moment: what was not kept goes with the next piece.
        this.waiting = [...samples, ...this.waiting];
        this.number = number + 1;
      });
  }
}

function signalsIn(dictionary: Dictionary, wanted: readonly string[]): readonly LiveSignal[] {
  const { signals } = watchableOf(dictionary);
  const names = [...new Set(wanted)];
  const missing = names.filter((name) => !signals.some(({ meaning }) => meaning === name));
  const has = signals.map(({ meaning }) => meaning).join(', ');
  const bad =
    missing.length > 0
      ? `${dictionary.name} does not show ${missing.join(' and ')} in a register. It shows ${has}.`
      : names.length === 0 || names.length > MOST_SIGNALS
        ? `A trace has one to ${MOST_SIGNALS} signals.`
        : undefined;
  if (bad) throw new ProblemException(422, 'trace-signals', `${bad} Nothing was recorded.`);
  return names.flatMap((name) => signals.find(({ meaning }) => meaning === name) ?? []);
}

const faultCodes = (dictionary: Dictionary): readonly Code[] => {
  const { fault } = watchableOf(dictionary);
  return fault ? [fault.code] : [];
};

function settingsIn(dictionary: Dictionary, values: ReadonlyMap<Code, number>): TraceSettings {
  const of = (meaning: string): Parameter | undefined => findMeaning(dictionary, meaningOf(meaning));
  const number = (meaning: string): number | null => {
    const parameter = of(meaning);
    const raw = parameter && values.get(parameter.code);
    if (parameter?.form.kind !== 'number' || raw === undefined) return null;
    const { step, places } = parameter.form.resolution;
    return valueOf({ meaning, code: '', unit: '', step, places }, raw);
  };
  const shape = of('ramp.shape');
  const raw = shape && values.get(shape.code);
  const kind =
    shape?.form.kind === 'option' ? shape.form.options.find((each) => each.raw === raw)?.meaning : undefined;
  const [up, down] = [number('ramp.up'), number('ramp.down')];
  const fifth = kind === 'rounded-by-fifths';
  const rounded = kind !== undefined && kind !== 'straight';
  const maximum = of('frequency.maximum');
  const inHertz = maximum?.form.kind === 'number' && maximum.form.unit === 'Hz';
  const toMaximum = dictionary.conventions.ramp_counts_to === 'maximum-frequency';
  return {
    ...{ rampUp: up, rampDown: down },
    top: toMaximum ? (inHertz ? number('frequency.maximum') : null) : number('motor.baseFrequency'),
    roundUp: fifth ? (up ?? 0) / 5 : rounded ? (number('ramp.roundUp') ?? 0) : 0,
    roundDown: fifth ? (down ?? 0) / 5 : rounded ? (number('ramp.roundDown') ?? 0) : 0,
  };
}
