// Goes along while somebody works through a step: reads the unit, lets the judge say where it stands, and keeps what was read
// with what follows from it. It reads and does nothing else; the machine is started, stopped and switched by people.

import { Injectable } from '@nestjs/common';
import type { ProofEvidenceView, ProofStepView, ProofWatchEvent } from '@drive-keep/api';
import { compareSets } from '@drive-keep/core/compare';
import { findParameter } from '@drive-keep/core/dictionary';
import { Judge, VALUES_STEP, type Judgement } from '@drive-keep/core/prove';
import { isRaw } from '@drive-keep/core/values';
import { Observable, type Subscriber } from 'rxjs';
import { DataSource } from 'typeorm';
import type { Account } from '../access/account.entity.ts';
import { Dictionaries } from '../catalogue/dictionaries.service.ts';
import { Lines, noLine } from '../lines/lines.service.ts';
import type { UnitOnLine } from '../lines/unit-at-line.ts';
import { UnitWatch, type Watched } from '../live/unit-watch.service.ts';
import { ProofEvidence } from '../proofs/proof-evidence.entity.ts';
import { Register } from '../register/register.service.ts';
import { ContentStore } from '../sets/content-store.service.ts';
import { Observing, showing } from './observing.ts';
import { refused } from './proof-ground.service.ts';
import { evidenceView, ProofViews } from './proof-views.service.ts';

/** Fast enough for a button that somebody presses, and for ramps. */
const EVERY_MS = 100;
/** Nobody works longer at one step; a screen that is left open reads no unit for ever. */
const LONGEST_MS = 20 * 60_000;
/** Differences that are named one by one. */
const MOST_NAMED = 12;

/** Of the step that is watched. */
interface Watching {
  readonly runId: string;
  readonly step: ProofStepView;
  readonly unitId: string;
  readonly unit: UnitOnLine;
  readonly setHash: string;
  readonly judge: Judge;
  readonly observing: Observing;
  readonly terminalOf: (number: string) => string;
  readonly person: string;
  readonly began: Date;
}

@Injectable()
export class ProofWatch {
  constructor(
    private readonly dataSource: DataSource,
    private readonly register: Register,
    private readonly dictionaries: Dictionaries,
    private readonly contents: ContentStore,
    private readonly lines: Lines,
    private readonly units: UnitWatch,
    private readonly views: ProofViews,
  ) {}

  /** Ends with the evidence, once it is kept. Whoever leaves before keeps what was seen so far, as not judged. */
  async watch(id: string, stepId: string, { person }: Account): Promise<Observable<ProofWatchEvent>> {
    const run = await this.views.of(id);
    const step = run.planned.find((each) => each.id === stepId);
    if (!step) throw refused(`This proof run has no step “${stepId}”.`);
    if (run.state !== 'open') throw refused('This proof run has ended: it stays as it is.');
    const { unit } = await this.register.unitAt(run.tag);
    if (run.unitGone) throw refused(`Another unit sits at ${run.tag} since this run began. Begin anew.`);
    if (!unit.line) throw noLine(run.tag);
    if (!step.watched)
      throw refused(
        `No register of the ${run.model} tells all that “${step.title}” needs. Type what you see.`,
      );
    const dictionary = await this.dictionaries.get(run.dictionary);
    const { line, lineAddress, serial } = unit;
    return this.following({
      ...{ runId: id, step, unitId: unit.id, person, setHash: run.set.hash },
      unit: { tag: run.tag, line, address: lineAddress ?? 0, serial, dictionary },
      ...{ judge: new Judge(step, run.inputs), observing: new Observing(dictionary), began: new Date() },
      terminalOf: (number) => run.inputs.find((each) => each.number === number)?.terminal ?? number,
    });
  }

  private following(watching: Watching): Observable<ProofWatchEvent> {
    return new Observable<ProofWatchEvent>((subscriber) => {
      const { unit, unitId, observing, judge } = watching;
      let last: Judgement | undefined;
      let ended = false;
      const end = (judgement: Judgement | undefined, why: string): void => {
        if (ended) return;
        ended = true;
        reading.unsubscribe();
        clearTimeout(timer);
        void this.finish(watching, judgement, why, subscriber);
      };
      const timer = setTimeout(
        () => end(last, `Nothing could be told within ${LONGEST_MS / 60_000} minutes.`),
        LONGEST_MS,
      );
      const reading = this.units
        .watch(unitId, unit, { codes: observing.codes, everyMs: EVERY_MS, status: true })
        .subscribe((told) => {
          last = this.take(watching, told, subscriber);
          if (last.state !== 'waits') end(last, '');
        });
      return () => {
        if (judge.began) end(last, 'Watching ended before it could be told.');
        ended = true;
        clearTimeout(timer);
        reading.unsubscribe();
      };
    });
  }

  private take(
    { judge, observing, terminalOf }: Watching,
    told: Watched,
    subscriber: Subscriber<ProofWatchEvent>,
  ): Judgement {
    if (told.kind === 'silent') {
      const at = Date.now();
      observing.silent(at);
      const judgement = judge.silent(at, told.away);
      subscriber.next({ kind: 'silent', text: told.text, judgement });
      return judgement;
    }
    const seen = observing.of(told);
    const judgement = judge.take(seen);
    subscriber.next({ kind: 'judging', judgement, shown: showing(seen, terminalOf) });
    return judgement;
  }

  private async finish(
    watching: Watching,
    judgement: Judgement | undefined,
    why: string,
    subscriber: Subscriber<ProofWatchEvent>,
  ): Promise<void> {
    try {
      const told = judgement && judgement.state !== 'waits' ? judgement : undefined;
      const whole = told?.state === 'passed' && watching.step.id === VALUES_STEP;
      const judged = whole ? await this.compared(watching, subscriber) : told;
      const evidence = await this.keep(watching, judged ?? judgement, stateOf(judged), why);
      subscriber.next({ kind: 'kept', evidence });
      subscriber.complete();
    } catch (error) {
      subscriber.error(error);
    }
  }

  /** Reads everything, now that the supply was away, and holds it against the set of the run. */
  private async compared(
    { unit, setHash, step }: Watching,
    subscriber: Subscriber<ProofWatchEvent>,
  ): Promise<Judgement & { readonly state: 'passed' | 'failed' }> {
    const kept = await this.contents.get(setHash);
    const control = {
      stopped: () => subscriber.closed,
      progress: (done: number, total: number) => subscriber.next({ kind: 'reading', done, total }),
    };
    const read = await this.lines.withUnit(unit, 'look', async (at) => {
      const answer = await at.read(control);
      return answer.ok ? answer.value.set : at.describe(answer.fault);
    });
    const base = { stage: step.stages.length, figures: [] };
    if (typeof read === 'string')
      return { ...base, state: 'failed', text: 'Its settings could not be read.', likely: [read] };
    const { dictionary } = unit;
    const codes = compareSets(dictionary, kept, read).rows.map(({ code }) => code);
    const all = [...kept.readings.keys()];
    const told = all.filter((code) => isRaw(read.readings.get(code))).length;
    const untold = all.length - told;
    // What could not be read is not there, and not gone either.
    const rest = untold === 0 ? '' : ` ${untold} could not be read: nothing is known of them.`;
    if (codes.length === 0)
      return {
        ...{ ...base, state: told === 0 ? 'failed' : 'passed', likely: [] },
        text:
          told === 0 ? 'None of its settings could be read.' : `All ${told} settings are still there.${rest}`,
      };
    const named = codes.slice(0, MOST_NAMED).map((code) => findParameter(dictionary, code)?.name ?? code);
    return {
      ...base,
      state: 'failed',
      text: `${codes.length} of ${all.length} settings are not what they were: ${codes.slice(0, MOST_NAMED).join(', ')}.${rest}`,
      likely: [
        `Likely they were never saved permanently, or somebody has changed them since: ${named.join(', ')}.`,
      ],
    };
  }

  private async keep(
    { runId, step, observing, began, person }: Watching,
    judgement: Judgement | undefined,
    state: 'passed' | 'failed' | 'unjudged',
    why: string,
  ): Promise<ProofEvidenceView> {
    const readings = observing.kept;
    const row = {
      ...{ runId, step: step.id, state, stage: judgement?.stage ?? 0 },
      text: state === 'unjudged' ? why : (judgement?.text ?? ''),
      ...{ likely: judgement?.likely ?? [], figures: judgement?.figures ?? [], readings },
      ...{ beganAt: began, endedAt: new Date(), takenBy: person },
    };
    const kept = await this.dataSource.getRepository(ProofEvidence).save(row);
    return evidenceView({ ...kept, count: readings.length });
  }
}

const stateOf = (judged: Judgement | undefined): 'passed' | 'failed' | 'unjudged' =>
  judged === undefined || judged.state === 'waits' ? 'unjudged' : judged.state;
