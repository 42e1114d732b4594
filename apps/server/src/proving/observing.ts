// What a unit shows as a judge of proof steps wants it, and what of it is kept: of each reading only what differs from the one
// before.

import type { ProofReading } from '@drive-keep/api';
import { faultOf, type Code, type Dictionary } from '@drive-keep/core/dictionary';
import { watchableOf, type LiveSignal } from '@drive-keep/core/live';
import type { Observed, Told } from '@drive-keep/core/prove';
import { valueOf } from '@drive-keep/core/signals';
import type { Watched } from '../live/unit-watch.service.ts';

type Sample = Extract<Watched, { kind: 'sample' }>;

/** Numbers of analog inputs that a model may have. */
const ANALOGS = ['1', '2'];
/** A frequency that moves less is not kept anew, in Hz. */
const HERTZ_STEP = 0.05;
/** Readings of one step that are kept at most: ten minutes of ramps. */
const MOST_READINGS = 6000;

export class Observing {
  readonly codes: readonly Code[];
  readonly told: Told;
  private readonly watchable: ReturnType<typeof watchableOf>;
  private readonly faults: Dictionary['faults'];
  private readonly readings: ProofReading[] = [];
  private began: number | undefined;
  private last: Omit<ProofReading, 'at'> = {};
  private isSilent = false;

  constructor(dictionary: Dictionary) {
    const { line, faults } = dictionary;
    this.faults = faults;
    this.watchable = watchableOf(dictionary);
    const { inputs, fault } = this.watchable;
    const used = ['frequency', 'loopActual', 'loopSetpoint', 'loopError', 'analog1', 'analog2'];
    const signals = this.watchable.signals.filter(({ meaning }) => used.includes(meaning));
    this.codes = [
      ...new Set([
        ...signals.map(({ parameter }) => parameter.code),
        ...[...inputs.values()].map(({ code }) => code),
        ...(fault ? [fault.code] : []),
      ]),
    ];
    this.told = {
      inputs: new Set(inputs.keys()),
      analogs: new Set(ANALOGS.filter((number) => this.share(number) !== undefined)),
      status: line?.status?.running !== undefined,
      hertz: this.signal('frequency')?.parameter.form.kind === 'number',
      loop: this.signal('loopActual') !== undefined && this.loopWanted() !== undefined,
    };
  }

  get kept(): readonly ProofReading[] {
    return this.readings;
  }

  of({ at, values, runs, faulty }: Sample): Observed {
    const { inputs, fault } = this.watchable;
    const number = fault ? values.get(fault.code) : undefined;
    const seen: Observed = {
      at,
      inputs: Object.fromEntries(
        [...inputs].flatMap(([name, { code, bit }]): [string, boolean][] => {
          const word = values.get(code);
          return word === undefined ? [] : [[name, (word >>> bit) % 2 === 1]];
        }),
      ),
      analogs: Object.fromEntries(
        ANALOGS.flatMap((name): [string, number][] => {
          const value = this.valueAt(this.share(name), values);
          return value === undefined ? [] : [[name, value / 100]];
        }),
      ),
      runs,
      faulty: faulty ?? (number === undefined ? null : number !== 0),
      fault: this.kindOf(number),
      hertz: this.valueAt(this.signal('frequency'), values) ?? null,
      loop: this.loopAt(values),
    };
    this.keep(at, { inputs: seen.inputs, runs: seen.runs, faulty: seen.faulty, hertz: seen.hertz });
    return seen;
  }

  /** As the engine names it. */
  private kindOf(number: number | undefined): string | null {
    const kind = number ? faultOf({ faults: this.faults }, number)?.kind : undefined;
    return kind === 'motorHot' ? 'motor-warm' : (kind ?? null);
  }

  silent(at: number): void {
    if (this.isSilent) return;
    this.isSilent = true;
    this.put(at, { silent: true });
    // Whatever comes then is told in full.
    this.last = {};
  }

  private keep(at: number, seen: Required<Omit<ProofReading, 'at' | 'silent'>>): void {
    this.isSilent = false;
    const { last } = this;
    const moved =
      typeof seen.hertz !== 'number' ||
      typeof last.hertz !== 'number' ||
      Math.abs(seen.hertz - last.hertz) >= HERTZ_STEP;
    const fresh: Omit<ProofReading, 'at'> = {
      ...(JSON.stringify(last.inputs) === JSON.stringify(seen.inputs) ? {} : { inputs: seen.inputs }),
      ...(last.runs === seen.runs ? {} : { runs: seen.runs }),
      ...(last.faulty === seen.faulty ? {} : { faulty: seen.faulty }),
      ...(last.hertz === seen.hertz || !moved ? {} : { hertz: seen.hertz }),
    };
    if (Object.keys(fresh).length === 0) return;
    this.put(at, fresh);
    this.last = { ...last, ...fresh };
  }

  private put(at: number, reading: Omit<ProofReading, 'at'>): void {
    this.began ??= at;
    if (this.readings.length < MOST_READINGS)
      this.readings.push({ at: Math.round(at - this.began), ...reading });
  }

  private signal = (name: string): LiveSignal | undefined =>
    this.watchable.signals.find(({ meaning }) => meaning === name);

  /** The signal at an analog input, in percent of it. */
  private share(number: string): LiveSignal | undefined {
    const signal = this.signal(`analog${number}`);
    return signal?.parameter.form.kind === 'number' && signal.parameter.form.unit === '%'
      ? signal
      : undefined;
  }

  /** The set-point in the unit of the actual value, or the error of the loop. */
  private loopWanted(): LiveSignal | undefined {
    const [actual, wanted] = [this.signal('loopActual'), this.signal('loopSetpoint')];
    const unit = (signal: LiveSignal | undefined) =>
      signal?.parameter.form.kind === 'number' ? signal.parameter.form.unit : undefined;
    return this.signal('loopError') ?? (wanted && unit(wanted) === unit(actual) ? wanted : undefined);
  }

  private loopAt(values: ReadonlyMap<Code, number>): Observed['loop'] {
    const error = this.valueAt(this.signal('loopError'), values);
    // In percent of the range.
    if (error !== undefined) return { actual: -error, wanted: 0, range: 100 };
    const actual = this.valueAt(this.signal('loopActual'), values);
    const signal = this.loopWanted();
    const wanted = this.valueAt(signal, values);
    if (actual === undefined || wanted === undefined || signal?.parameter.form.kind !== 'number') return null;
    return { actual, wanted, range: signal.parameter.form.unit === '%' ? 100 : Math.abs(wanted) };
  }

  private valueAt(signal: LiveSignal | undefined, values: ReadonlyMap<Code, number>): number | undefined {
    const raw = signal && values.get(signal.parameter.code);
    if (raw === undefined || signal?.parameter.form.kind !== 'number') return undefined;
    const { step, places } = signal.parameter.form.resolution;
    return valueOf({ meaning: signal.meaning, code: '', unit: '', step, places }, raw);
  }
}

/** What it shows, in words: `Terminal 23 on. Runs, 12.0 Hz`. */
export function showing(seen: Observed, terminalOf: (number: string) => string): string {
  const on = Object.entries(seen.inputs).flatMap(([number, is]) => (is ? [terminalOf(number)] : []));
  const inputs = on.length === 0 ? 'No terminal on' : `On: ${on.join(', ')}`;
  const state = seen.faulty === true ? 'fault' : seen.runs === null ? '' : seen.runs ? 'runs' : 'stands';
  const speed = seen.hertz === null ? '' : `${seen.hertz.toFixed(1)} Hz`;
  return [inputs, [state, speed].filter(Boolean).join(', ')].filter(Boolean).join(' · ');
}
