// What a dry run needs to know of a position. The computation itself is core's, in the browser's worker.

import { Injectable } from '@nestjs/common';
import type { DryRunView } from '@drive-keep/api';
import type { ParameterSet } from '@drive-keep/core/sets';
import { NO_WIRING, wiringRows } from '@drive-keep/core/wiring';
import { DataSource } from 'typeorm';
import { ReferencedSets } from '../compare/referenced-sets.service.ts';
import { notFound, ProblemException } from '../problems/problem.ts';
import { Register, type PositionWithUnit } from '../register/register.service.ts';
import { ContentStore } from '../sets/content-store.service.ts';
import { isUuid } from '../storage/uuid.ts';
import { Wirings } from '../wiring/wirings.service.ts';

@Injectable()
export class DryRuns {
  constructor(
    private readonly dataSource: DataSource,
    private readonly contents: ContentStore,
    private readonly register: Register,
    private readonly sets: ReferencedSets,
    private readonly wirings: Wirings,
  ) {}

  async of(tag: string, reference: string): Promise<DryRunView> {
    const at = await this.register.unitAt(tag);
    const { unit, position } = at;
    const { title, when, set } = await this.setOf(at, reference);
    if (set.dictionary !== unit.dictionaryId)
      throw new ProblemException(
        422,
        'other-model',
        `${title} is of ${set.dictionary}, and ${unit.dictionaryId} sits at ${tag} now: its wiring belongs to that.`,
      );
    const kept = await this.wirings.newest(position.id, tag);
    return {
      ...{ tag, duty: position.duty, title, at: when, reference, dictionary: set.dictionary },
      ...{ rating: unit.rating, region: unit.region },
      readings: [...set.readings],
      wiring: wiringRows(kept?.wiring ?? NO_WIRING),
      wiringRevision: kept?.revision ?? 0,
    };
  }

  /** Beside the sets that a comparison knows: the draft that waits, and a write plan before and after it. */
  private async setOf(
    at: PositionWithUnit,
    reference: string,
  ): Promise<{ readonly title: string; readonly when: string | null; readonly set: ParameterSet }> {
    const [kind = '', id = ''] = reference.split(':');
    if (kind === 'draft') return this.kept(await this.draft(at), 'Baseline that waits for its signature');
    if (kind === 'plan')
      return this.kept(await this.plan(at, id, 'predicted_hash'), 'What the write plan leads to');
    if (kind === 'plan-before')
      return this.kept(await this.plan(at, id, 'basis_hash'), 'Before the write plan');
    const { side, set } = await this.sets.whole(at, reference);
    return { title: side.title, when: side.at, set };
  }

  private async kept(hash: string, title: string) {
    return { title, when: null, set: await this.contents.get(hash) };
  }

  private async draft({ position }: PositionWithUnit): Promise<string> {
    const [draft]: { hash: string }[] = await this.dataSource.query(
      `select content_hash as hash from baseline_draft where position_id = $1 and state = 'waiting'`,
      [position.id],
    );
    if (!draft) throw notFound(`A draft of the baseline of ${position.tag}`);
    return draft.hash;
  }

  private async plan(
    { position }: PositionWithUnit,
    id: string,
    side: 'predicted_hash' | 'basis_hash',
  ): Promise<string> {
    const rows: { hash: string | null }[] = isUuid(id)
      ? await this.dataSource.query(
          `select ${side} as hash from write_plan where id = $1 and position_id = $2`,
          [id, position.id],
        )
      : [];
    const hash = rows[0]?.hash;
    if (!hash) throw notFound('This write plan');
    return hash;
  }
}
