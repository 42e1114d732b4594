// Proof runs as they are kept: which there are of a position, and which of them shows on the machine what a set holds.

import { Injectable } from '@nestjs/common';
import type { ProofMark } from '@drive-keep/api';
import { DataSource, type EntityManager } from 'typeorm';

/** A closed run, as far as a signature names it. */
export interface ClosedProof {
  readonly id: string;
  readonly hash: string;
  readonly setHash: string;
  readonly passed: number;
  readonly failed: number;
  readonly notDone: number;
  readonly endedAt: Date;
}

interface MarkRow {
  readonly id: string;
  readonly state: ProofMark['state'];
  readonly scope: ProofMark['scope'];
  readonly why: string;
  readonly steps: number;
  readonly passed: string | number;
  readonly failed: string | number;
  readonly not_done: string | number;
  readonly started_by: string;
  readonly started_at: Date;
  readonly ended_by: string | null;
  readonly ended_at: Date | null;
}

const CLOSED = `
  select r.id, e.hash, r.set_hash as "setHash", e.passed, e.failed, e.not_done as "notDone", e.ended_at as "endedAt"
    from proof_run r join proof_end e on e.run_id = r.id join unit u on u.id = r.unit_id
   where r.position_id = $1 and e.state = 'closed' and u.removed_at is null and u.position_id = r.position_id
   order by e.ended_at desc`;

@Injectable()
export class Proofs {
  constructor(private readonly dataSource: DataSource) {}

  /** Closed runs of the unit that sits there now, the newest first. */
  closed(positionId: string, manager: EntityManager = this.dataSource.manager): Promise<ClosedProof[]> {
    return manager.query(CLOSED, [positionId]);
  }

  /** Of closed runs of a position: its id by the hash of its record. */
  async byHash(positionId: string): Promise<ReadonlyMap<string, string>> {
    const rows: { id: string; hash: string }[] = await this.dataSource.query(
      'select r.id, e.hash from proof_end e join proof_run r on r.id = e.run_id where r.position_id = $1',
      [positionId],
    );
    return new Map(rows.map(({ id, hash }) => [hash, id]));
  }

  /** All of a position, the newest first. */
  async marks(positionId: string): Promise<readonly ProofMark[]> {
    const rows: MarkRow[] = await this.dataSource.query(
      `with last as (
         select distinct on (s.run_id, s.step) s.run_id, s.verdict
           from proof_saying s join proof_run r on r.id = s.run_id
          where r.position_id = $1 order by s.run_id, s.step, s.id desc)
       select r.id, coalesce(e.state, 'open') as state, r.scope, r.why,
              jsonb_array_length(r.plan -> 'steps') as steps,
              count(*) filter (where l.verdict = 'passed') as passed,
              count(*) filter (where l.verdict = 'failed') as failed,
              count(*) filter (where l.verdict = 'not-done') as not_done,
              r.started_by, r.started_at, e.ended_by, e.ended_at
         from proof_run r left join proof_end e on e.run_id = r.id left join last l on l.run_id = r.id
        where r.position_id = $1 group by r.id, e.run_id order by r.started_at desc`,
      [positionId],
    );
    return rows.map((row) => ({
      ...{ id: row.id, state: row.state, scope: row.scope, why: row.why, steps: row.steps },
      ...{ passed: Number(row.passed), failed: Number(row.failed), notDone: Number(row.not_done) },
      ...{ startedBy: row.started_by, startedAt: row.started_at.toISOString() },
      ...{ endedBy: row.ended_by, endedAt: row.ended_at?.toISOString() ?? null },
    }));
  }
}
