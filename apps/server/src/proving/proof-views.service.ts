// A proof run as it is shown, and how an ended one is read back: by its hash, or not at all.

import { createHash } from 'node:crypto';
import { Injectable } from '@nestjs/common';
import type {
  ProofCounts,
  ProofEvidenceView,
  ProofReading,
  ProofRunView,
  ProofSayingView,
} from '@drive-keep/api';
import { canJudge } from '@drive-keep/core/prove';
import { DataSource, type EntityManager } from 'typeorm';
import { Dictionaries } from '../catalogue/dictionaries.service.ts';
import { notFound, ProblemException } from '../problems/problem.ts';
import { ProofEnd } from '../proofs/proof-end.entity.ts';
import { ProofEvidence } from '../proofs/proof-evidence.entity.ts';
import { ProofRun } from '../proofs/proof-run.entity.ts';
import { ProofSaying } from '../proofs/proof-saying.entity.ts';
import { Position } from '../register/position.entity.ts';
import { Unit } from '../register/unit.entity.ts';
import { isUuid } from '../storage/uuid.ts';
import { Observing } from './observing.ts';

type EvidenceRow = Omit<ProofEvidence, 'readings'> & { readonly count: number };

@Injectable()
export class ProofViews {
  constructor(
    private readonly dataSource: DataSource,
    private readonly dictionaries: Dictionaries,
  ) {}

  async load(id: string, manager: EntityManager = this.dataSource.manager): Promise<ProofRun> {
    const found = isUuid(id) ? await manager.findOneBy(ProofRun, { id }) : null;
    if (!found) throw notFound('This proof run');
    return found;
  }

  async of(id: string, manager: EntityManager = this.dataSource.manager): Promise<ProofRunView> {
    const run = await this.load(id, manager);
    const end = await manager.findOneBy(ProofEnd, { runId: id });
    const now = await this.make(run, manager);
    if (!end) return now;
    const { state, endedBy, endedAt, why } = end;
    const ended = { state, endedBy, endedAt: endedAt.toISOString(), endedWhy: why };
    return { ...(await this.recordOf(end, manager)), ...ended, unitGone: now.unitGone };
  }

  /** What was read for one piece of evidence. */
  async readings(id: string, evidence: string): Promise<readonly ProofReading[]> {
    const found = isUuid(evidence)
      ? await this.dataSource.getRepository(ProofEvidence).findOneBy({ id: evidence, runId: id })
      : null;
    if (!found) throw notFound('This evidence');
    return found.readings;
  }

  /** As it stands: what was said last of each step, and all that was read. */
  async make(run: ProofRun, manager: EntityManager): Promise<ProofRunView> {
    const position = await manager.findOneByOrFail(Position, { id: run.positionId });
    const unit = await manager.findOneOrFail(Unit, { where: { id: run.unitId }, relations: { line: true } });
    const dictionary = await this.dictionaries.get(run.dictionaryId);
    const { told } = new Observing(dictionary);
    const sayings = lastOf(
      await manager.find(ProofSaying, { where: { runId: run.id }, order: { id: 'ASC' } }),
    );
    const { steps, inputs, states, unfinished, untold } = run.plan;
    const hasLine = unit.line !== null;
    return {
      ...{ id: run.id, state: 'open', scope: run.scope, why: run.why, ...countsOf(steps.length, sayings) },
      ...{ startedBy: run.startedBy, startedAt: run.startedAt.toISOString() },
      ...{ endedBy: null, endedAt: null, endedWhy: '' },
      ...{ tag: position.tag, duty: position.duty, dictionary: dictionary.id, rating: unit.rating },
      ...{ model: `${dictionary.maker} ${dictionary.name}`, serial: Number(run.serial), hasLine },
      unitGone: unit.removedAt !== null,
      set: { title: run.setTitle, at: run.setAt?.toISOString() ?? null, hash: run.setHash },
      wiringRevision: run.wiringRevision,
      since: await this.sinceOf(run, manager),
      planned: steps.map((step) => ({ ...step, watched: hasLine && canJudge(step, told) })),
      ...{ leftOut: run.leftOut, inputs, states, unfinished, untold, sayings },
      evidence: await this.evidenceOf(run.id, manager),
    };
  }

  private async sinceOf({ since }: ProofRun, manager: EntityManager): Promise<ProofRunView['since']> {
    const before = since === null ? null : await manager.findOneBy(ProofRun, { id: since });
    return before && { id: before.id, at: before.startedAt.toISOString() };
  }

  private async evidenceOf(runId: string, manager: EntityManager): Promise<readonly ProofEvidenceView[]> {
    const rows: EvidenceRow[] = await manager.query(
      `select id, run_id as "runId", step, state, stage, text, likely, figures, began_at as "beganAt",
              ended_at as "endedAt", taken_by as "takenBy", jsonb_array_length(readings) as count
         from proof_evidence where run_id = $1 order by ended_at, id`,
      [runId],
    );
    return rows.map(evidenceView);
  }

  private async recordOf({ runId, hash }: ProofEnd, manager: EntityManager): Promise<ProofRunView> {
    const [row]: { record: string }[] = await manager.query(
      'select record from proof_end where run_id = $1',
      [runId],
    );
    if (row && hashOfRecord(row.record) === hash) return JSON.parse(row.record) as ProofRunView;
    throw new ProblemException(
      500,
      'proof-damaged',
      'The kept record of this proof run is damaged: nothing of it is shown. Restore a copy of the database.',
    );
  }
}

export const hashOfRecord = (record: string): string =>
  `sha256:${createHash('sha256').update(record).digest('hex')}`;

export function evidenceView(row: EvidenceRow): ProofEvidenceView {
  const { id, step, state, stage, text, likely, figures, count, beganAt, endedAt, takenBy } = row;
  return {
    ...{ id, step, state, stage, text, likely, figures, readings: count, by: takenBy },
    ...{ beganAt: beganAt.toISOString(), endedAt: endedAt.toISOString() },
  };
}

/** Of each step the last word, in the order in which they came; beside it the last one of somebody else that says otherwise. */
function lastOf(rows: readonly ProofSaying[]): readonly ProofSayingView[] {
  const last = new Map<string, ProofSaying>();
  for (const row of rows) last.set(row.step, row);
  return [...last.values()].map((row) => {
    const other = rows.findLast(({ step, saidBy }) => step === row.step && saidBy !== row.saidBy);
    const { step, verdict, seen, evidenceId, saidBy, saidAt, toldAt } = row;
    return {
      ...{ step, verdict, seen, evidence: evidenceId, by: saidBy },
      ...{ at: saidAt.toISOString(), toldAt: toldAt.toISOString() },
      other:
        other && other.verdict !== verdict
          ? { by: other.saidBy, at: other.saidAt.toISOString(), verdict: other.verdict }
          : null,
    };
  });
}

export function countsOf(steps: number, sayings: readonly ProofSayingView[]): ProofCounts {
  const many = (verdict: ProofSayingView['verdict']) =>
    sayings.filter((each) => each.verdict === verdict).length;
  return { steps, passed: many('passed'), failed: many('failed'), notDone: many('not-done') };
}
