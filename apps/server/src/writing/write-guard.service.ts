// Whether a plan that is being carried out may still write: asked of the database before every single write, save and
// restart, whatever was true when it was begun.

import { Injectable } from '@nestjs/common';
import type { JobState, WritePlanState } from '@drive-keep/api';
import { DataSource } from 'typeorm';
import { Clock } from '../storage/clock.ts';

interface Standing {
  readonly tag: string;
  readonly state: WritePlanState;
  readonly released_until: Date | null;
  readonly job_state: JobState | null;
  readonly stop_requested: boolean | null;
  readonly retired_at: Date | null;
  readonly removed_at: Date | null;
  readonly line_id: string | null;
  readonly line_address: number | null;
}

/** Where the plan means to write. */
export interface Aim {
  readonly planId: string;
  readonly lineId: string;
  readonly address: number;
}

@Injectable()
export class WriteGuard {
  constructor(
    private readonly dataSource: DataSource,
    private readonly clock: Clock,
  ) {}

  /** In words what is against it; nothing where it may go on. */
  async objection({ planId, lineId, address }: Aim): Promise<string | undefined> {
    const [now]: Standing[] = await this.dataSource.query(
      `select p.tag, w.state, w.released_until, j.state as job_state, j.stop_requested,
              p.retired_at, u.removed_at, u.line_id, u.line_address
         from write_plan w join position p on p.id = w.position_id join unit u on u.id = w.unit_id
         left join job j on j.id = w.job_id where w.id = $1`,
      [planId],
    );
    if (!now || now.state !== 'writing' || now.job_state !== 'running')
      return 'This was given up: the server lost its hold on it.';
    if (now.stop_requested) return 'Somebody stopped it.';
    if (now.retired_at) return `${now.tag} is retired: no unit is there.`;
    if (now.removed_at) return `The unit was taken out of ${now.tag}.`;
    if (now.line_id !== lineId || now.line_address !== address)
      return `The unit at ${now.tag} has another line or address in the register now.`;
    if (!now.released_until || now.released_until <= this.clock.now())
      return `The release of ${now.tag} has run out. State again that the machine is stopped and safe to write to.`;
    return undefined;
  }
}
