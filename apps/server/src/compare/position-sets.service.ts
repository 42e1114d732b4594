// Every set of a position by its reference: what a comparison knows, the draft of the baseline that waits, and a write plan before
// and after it.

import { Injectable } from '@nestjs/common';
import type { ParameterSet } from '@drive-keep/core/sets';
import { DataSource } from 'typeorm';
import { notFound } from '../problems/problem.ts';
import type { PositionWithUnit } from '../register/register.service.ts';
import { ContentStore } from '../sets/content-store.service.ts';
import { isUuid } from '../storage/uuid.ts';
import { ReferencedSets } from './referenced-sets.service.ts';

@Injectable()
export class PositionSets {
  constructor(
    private readonly dataSource: DataSource,
    private readonly contents: ContentStore,
    private readonly sets: ReferencedSets,
  ) {}

  /** Beside the sets that a comparison knows: the draft that waits, and a write plan before and after it. */
  async of(
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
