// A proof run of a roller section after its drive came new: one wire of the speed selector was loose, and was found. What was read
// is what its engine says that a line would have read, with that wire off.

import { Injectable } from '@nestjs/common';
import type { ProofEvidenceView, ProofReading } from '@drive-keep/api';
import { machineOf, type Machine } from '@drive-keep/core/behaviour';
import {
  canJudge,
  Judge,
  proofPlanOf,
  rehearsal,
  type ProofPlan,
  type ProofStep,
  type Rehearsed,
} from '@drive-keep/core/prove';
import type { Wiring } from '@drive-keep/core/wiring';
import { DataSource, type EntityManager } from 'typeorm';
import { Meanings } from '../catalogue/meanings.service.ts';
import { ProofEnd } from '../proofs/proof-end.entity.ts';
import { ProofEvidence } from '../proofs/proof-evidence.entity.ts';
import { ProofRun } from '../proofs/proof-run.entity.ts';
import { ProofSaying } from '../proofs/proof-saying.entity.ts';
import { Observing } from '../proving/observing.ts';
import { hashOfRecord, ProofViews } from '../proving/proof-views.service.ts';
import { Backups } from '../sets/backups.service.ts';
import { ContentStore } from '../sets/content-store.service.ts';
import { Wirings } from '../wiring/wirings.service.ts';
import { demoTime, type Placed } from './demo-history.ts';
import { ENGINEER, TECHNICIAN } from './story.ts';

const TAG = 'KL1-RD-03';
const NIGHTS_AGO = 23;
const HOUR = 13;
const STEP_MS = 150_000;
const LOOKED_MS = 20_000;
/** The terminal whose wire was loose. */
const LOOSE = '26';
const WAITED = 'Watching ended before it could be told.';

interface Told {
  readonly verdict: 'passed' | 'failed' | 'not-done';
  readonly seen: string;
}

@Injectable()
export class DemoProofs {
  constructor(
    private readonly dataSource: DataSource,
    private readonly meanings: Meanings,
    private readonly backups: Backups,
    private readonly contents: ContentStore,
    private readonly wirings: Wirings,
    private readonly views: ProofViews,
  ) {}

  async make(placed: readonly Placed[], now: Date): Promise<void> {
    const place = placed.find(({ told }) => told.tag === TAG);
    if (!place) return;
    const { position, unit, dictionary } = place;
    const startedAt = demoTime(now, NIGHTS_AGO, HOUR);
    const backup = (await this.backups.all(position.id)).findLast(({ takenAt }) => takenAt < startedAt);
    if (!backup) return;
    const { wiring, revision } = await this.wirings.kept(position.id, TAG);
    const set = await this.contents.get(backup.contentHash);
    const plain = this.meanings.bridge.read(dictionary, unit, set.readings);
    const plan = proofPlanOf(machineOf(plain, wiring), this.meanings.vocabulary.termOf);
    const machine = machineOf(plain, withoutWireAt(wiring, LOOSE));
    await this.dataSource.transaction(async (manager) => {
      const run = await manager.save(ProofRun, {
        ...{
          positionId: position.id,
          unitId: unit.id,
          serial: String(unit.serial),
          dictionaryId: dictionary.id,
        },
        ...{ setHash: backup.contentHash, setTitle: `Backup by ${backup.takenBy}`, setAt: backup.takenAt },
        ...{ wiringRevision: revision, scope: 'whole' as const, since: null, plan, leftOut: 0 },
        ...{ why: 'After the new drive', startedBy: TECHNICIAN, startedAt },
      });
      const observing = new Observing(dictionary);
      for (const [at, step] of plan.steps.entries()) {
        const then = new Date(startedAt.getTime() + (at + 1) * STEP_MS);
        const watched = canJudge(step, observing.told) && step.part !== 'values';
        const evidence = watched ? await this.watched(manager, run.id, plan, step, machine, then) : null;
        const { verdict, seen } = wordOf(step, evidence?.state ?? null);
        await manager.insert(ProofSaying, {
          ...{ runId: run.id, step: step.id, verdict, seen, evidenceId: evidence?.id ?? null },
          ...{ saidBy: TECHNICIAN, saidAt: then, toldAt: then },
        });
      }
      await this.close(manager, run, new Date(startedAt.getTime() + (plan.steps.length + 3) * STEP_MS));
    });
  }

  private async watched(
    manager: EntityManager,
    runId: string,
    plan: ProofPlan,
    step: ProofStep,
    machine: Machine,
    endedAt: Date,
  ): Promise<ProofEvidence | null> {
    if (step.id !== PATH && restsOnLoose(step)) return null;
    const judge = new Judge(step, plan.inputs);
    const readings: ProofReading[] = [];
    let last: ReturnType<Judge['take']> | undefined;
    let before: Omit<ProofReading, 'at'> = {};
    for (const told of waited(rehearsal(machine, step), step.id === PATH)) {
      last = 'silent' in told ? judge.silent(told.at, true) : judge.take(told);
      const { at, ...seen } = 'silent' in told ? told : reading(told);
      if (JSON.stringify(seen) !== JSON.stringify(before)) readings.push({ at, ...seen });
      before = seen;
      if (last.state !== 'waits') break;
    }
    const state: ProofEvidenceView['state'] = !last || last.state === 'waits' ? 'unjudged' : last.state;
    return manager.save(ProofEvidence, {
      ...{ runId, step: step.id, state, stage: last?.stage ?? 0, likely: last?.likely ?? [] },
      ...{ figures: last?.figures ?? [], text: state === 'unjudged' ? WAITED : (last?.text ?? ''), readings },
      beganAt: new Date(endedAt.getTime() - (readings.at(-1)?.at ?? 0)),
      ...{ endedAt, takenBy: TECHNICIAN },
    });
  }

  private async close(manager: EntityManager, run: ProofRun, endedAt: Date): Promise<void> {
    const view = await this.views.make(run, manager);
    const ended = { state: 'closed' as const, endedBy: ENGINEER, endedWhy: 'everything was said' };
    const record = JSON.stringify({ ...view, ...ended, endedAt: endedAt.toISOString() });
    const { passed, failed, notDone } = view;
    await manager.insert(ProofEnd, {
      ...{ runId: run.id, state: 'closed', why: ended.endedWhy, passed, failed, notDone },
      ...{ record, hash: hashOfRecord(record), endedBy: ENGINEER, endedAt },
    });
  }
}

const PATH = 'S2=2';
const restsOnLoose = ({ terminals }: ProofStep): boolean => terminals.includes(LOOSE);

function wordOf(step: ProofStep, state: ProofEvidenceView['state'] | null): Told {
  if (step.id === PATH)
    return { verdict: 'failed', seen: 'Terminal 26 stays off: its wire is loose in the terminal of S2' };
  if (restsOnLoose(step))
    return { verdict: 'not-done', seen: 'When the wire of S2 at terminal 26 is made good' };
  return { verdict: 'passed', seen: state === 'passed' ? '' : 'As described.' };
}

/** Somebody stood there and looked, a while longer than it takes. */
function waited(told: readonly Rehearsed[], long: boolean): readonly Rehearsed[] {
  const last = told.at(-1);
  if (!long || !last) return told;
  return [
    ...told,
    ...Array.from({ length: LOOKED_MS / 100 }, (_, at) => ({ ...last, at: last.at + (at + 1) * 100 })),
  ];
}

const reading = ({ at, inputs, runs, faulty, hertz }: Parameters<Judge['take']>[0]): ProofReading => ({
  ...{ at, inputs, runs, faulty },
  hertz: hertz === null ? null : Math.round(hertz * 10) / 10,
});

const withoutWireAt = (wiring: Wiring, terminal: string): Wiring => ({
  ...wiring,
  wires: wiring.wires.filter(({ from, to }) =>
    [from, to].every((end) => end.kind !== 'terminal' || end.terminal !== terminal),
  ),
});
