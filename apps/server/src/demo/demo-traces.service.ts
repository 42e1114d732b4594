// Two traces of the flue draught loop from its commissioning, before and after it was tuned: answers of a second-order system by
// its closed form, read through the steps of the unit's registers, with the noise of a flue.

import { Injectable } from '@nestjs/common';
import { watchableOf } from '@drive-keep/core/live';
import type { Trace } from '@drive-keep/core/signals';
import { traceSignal } from '../traces/trace-signals.ts';
import { Traces } from '../traces/traces.service.ts';
import { demoTime, type Placed } from './demo-history.ts';
import { seededRandom } from './seeded-random.ts';
import { NIGHTS, TECHNICIAN } from './story.ts';

const TAG = 'KL1-FD-01';
const SECONDS = 90;
const EVERY_MS = 50;
const STEP_AT = 15;
/** Pa, below the air around. */
const [FROM, TO] = [-35, -45];
const NOISE = 0.22;
/** Hz at which the fan draws the first of these, by the square law of fans. */
const HERTZ_AT_FROM = 33.3;
/** The fan goes before the draught. */
const LEAD_SECONDS = 0.8;

interface Tuning {
  readonly title: string;
  readonly hour: number;
  /** Of the closed loop, in radians a second, and its damping. */
  readonly natural: number;
  readonly damping: number;
  readonly seed: number;
}
const TUNINGS: readonly Tuning[] = [
  { title: 'Draught loop before tuning, band 60 %, 6 s', hour: 9, natural: 0.62, damping: 0.19, seed: 41 },
  { title: 'Draught loop after tuning, band 180 %, 25 s', hour: 10, natural: 0.34, damping: 0.72, seed: 42 },
];

@Injectable()
export class DemoTraces {
  constructor(private readonly traces: Traces) {}

  async make(placed: readonly Placed[], now: Date): Promise<void> {
    const fan = placed.find(({ told }) => told.tag === TAG);
    if (!fan) return;
    const wanted = ['loopActual', 'loopSetpoint', 'frequency'];
    const known = watchableOf(fan.dictionary).signals;
    const signals = wanted
      .flatMap((name) => known.find(({ meaning }) => meaning === name) ?? [])
      .map(traceSignal);
    for (const tuning of TUNINGS) {
      const beganAt = demoTime(now, NIGHTS + 1, tuning.hour);
      await this.traces.keep(
        {
          ...{
            positionId: fan.position.id,
            dictionaryId: fan.dictionary.id,
            serial: String(fan.told.serial),
          },
          ...{
            title: tuning.title,
            signals,
            everyMs: EVERY_MS,
            seconds: SECONDS,
            beganBy: TECHNICIAN,
            beganAt,
          },
          endedAt: new Date(beganAt.getTime() + SECONDS * 1000),
          settings: { rampUp: 10, rampDown: 20, top: 50, roundUp: 0, roundDown: 0 },
          markers: [{ at: STEP_AT * 1000, text: 'Set-point to −45 Pa' }],
        },
        recorded(tuning, signals),
      );
    }
  }
}

function recorded(tuning: Tuning, signals: Trace['signals']): Trace {
  const random = seededRandom(tuning.seed);
  // The sum of twelve is near enough to a bell.
  const noise = () => NOISE * (Array.from({ length: 12 }, random).reduce((sum, each) => sum + each, 0) - 6);
  const times = Array.from(
    { length: (SECONDS * 1000) / EVERY_MS },
    (_, at) => at * EVERY_MS + Math.floor(random() * 3),
  );
  const draught = (seconds: number) => FROM + (TO - FROM) * answer(seconds - STEP_AT, tuning);
  const rows = times.map((at) => {
    const seconds = at / 1000;
    const hertz = HERTZ_AT_FROM * Math.sqrt(draught(seconds + LEAD_SECONDS) / FROM);
    return [draught(seconds) + noise(), seconds < STEP_AT ? FROM : TO, hertz];
  });
  return {
    signals,
    times,
    values: signals.map(({ step, places }, index) =>
      rows.map((row) => Math.round(((row[index] ?? 0) * 10 ** places) / step)),
    ),
  };
}

/** Of a second-order system to a step of 1. */
function answer(at: number, { natural, damping }: Tuning): number {
  if (at <= 0) return 0;
  const free = Math.sqrt(1 - damping ** 2);
  const swing = Math.sin(natural * free * at + Math.acos(damping));
  return 1 - (Math.exp(-damping * natural * at) / free) * swing;
}
