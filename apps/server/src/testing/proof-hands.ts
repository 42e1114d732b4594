// Hands at a simulated machine that go through a step of a proof run, while the server goes along.

import type { ProofEvidenceView, ProofStepView, ProofWatchEvent } from '@drive-keep/api';
import type { SimUnit } from '@drive-keep/plant-sim';
import { EventStream } from './event-stream.ts';
import { until, type Caller } from './running-plant.ts';

/** Longer than a contact has to stand to be seen. */
const STAYS_MS = 700;
/** A key that changes nothing is not waited for longer. */
const UNSEEN_MS = 1500;
const LOOK_MS = 50;
/** What a control loop leads never stands quite still. */
const LOOP_MS = 20_000;

export const pause = (ms: number): Promise<void> => new Promise((resolve) => setTimeout(resolve, ms));

/** Everything as it rests. */
export async function atRest(unit: SimUnit): Promise<void> {
  for (const each of unit.wired?.floor.broken ?? []) unit.wired?.cut(each, false);
  unit.runContact = false;
  unit.wired?.press('reset');
  unit.wired?.press('automatic');
  await until(() => (unit.running ? undefined : true));
}

export class ProofHands {
  constructor(
    private readonly caller: Caller,
    private readonly unit: SimUnit,
  ) {}

  /** The evidence that was kept, after everything of the step was done. */
  async goThrough(
    run: string,
    step: ProofStepView,
    beforeDeed?: (at: number) => Promise<void> | void,
  ): Promise<ProofEvidenceView> {
    await atRest(this.unit);
    const stream = await this.watch(run, step.id);
    try {
      await this.reach(stream, 1);
      const deeds = deedsOf(step.id);
      for (const [at, deed] of deeds.entries()) {
        await beforeDeed?.(at);
        if (kept(stream)) break;
        const before = stageOf(stream);
        if (deed === 'wait') await this.settled(stream);
        else {
          this.do(deed);
          if (deed === 'supply=0') await this.reach(stream, before + 1);
          else await this.seen(stream, before);
        }
      }
      return await until(() => kept(stream));
    } finally {
      stream.close();
      this.unit.switchSupply(true);
    }
  }

  watch(run: string, step: string): Promise<EventStream<ProofWatchEvent>> {
    return EventStream.open<ProofWatchEvent>(
      this.caller,
      `proofs/${run}/watching?step=${encodeURIComponent(step)}`,
    );
  }

  do(deed: string): void {
    const [what = '', to = ''] = deed.split('=');
    if (what === 'supply') this.unit.switchSupply(to === '1');
    else if (what === 'break' || what === 'mend') this.unit.wired?.cut(to, what === 'break');
    else if (what === 'key') this.unit.wired?.press(to as 'run');
    else this.unit.wired?.work(what, Number(to));
  }

  private reach(stream: EventStream<ProofWatchEvent>, stage: number): Promise<true> {
    return until(() => (stageOf(stream) >= stage || kept(stream) ? true : undefined));
  }

  private async seen(stream: EventStream<ProofWatchEvent>, before: number): Promise<void> {
    await pause(STAYS_MS);
    for (let waited = STAYS_MS; waited < UNSEEN_MS && stageOf(stream) === before; waited += LOOK_MS)
      await pause(LOOK_MS);
  }

  /** Its speed stands, and the judge has had its time to see that. */
  private async settled(stream: EventStream<ProofWatchEvent>): Promise<void> {
    let last = -1;
    for (
      let still = 0, waited = 0;
      still < STAYS_MS * 2 && waited < LOOP_MS && !kept(stream);
      waited += LOOK_MS
    ) {
      await pause(LOOK_MS);
      const now = this.unit.seen.frequency;
      still = Math.abs(now - last) < 0.01 ? still + LOOK_MS : 0;
      last = now;
    }
  }
}

/** By the name of the step: `S1=1`, `break=wire 3`, `wait`. */
const deedsOf = (id: string): readonly string[] =>
  id === 'values' ? ['supply=0', 'supply=1'] : (id.match(/\w[^ =]*=(?:wire \d+|at \S+|\S+)|wait/g) ?? []);

const kept = ({ events }: EventStream<ProofWatchEvent>): ProofEvidenceView | undefined =>
  events.flatMap((event) => (event.kind === 'kept' ? [event.evidence] : []))[0];

const stageOf = ({ events }: EventStream<ProofWatchEvent>): number =>
  events.flatMap((event) => ('judgement' in event ? [event.judgement.stage] : [])).at(-1) ?? 0;
