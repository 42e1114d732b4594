// What comes next in an installation that is new, told from what is there; nothing of it is remembered.

import { Injectable } from '@nestjs/common';
import type { FirstStep } from '@drive-keep/api';
import { DataSource } from 'typeorm';

/** Each is done when its question is answered with something. In the order in which one takes them. */
const QUESTIONS: readonly (readonly [FirstStep['id'], string])[] = [
  ['name', `select 1 from plant where name <> ''`],
  ['people', 'select 1 from account offset 1'],
  ['line', 'select 1 from line where retired_at is null'],
  [
    'model',
    'select 1 where exists (select 1 from dictionary where imported_by is not null) or exists (select 1 from unit)',
  ],
  ['units', 'select 1 from unit where removed_at is null'],
  ['backup', 'select 1 from backup'],
  ['baseline', 'select 1 from baseline'],
  ['round', 'select 1 from round'],
];

@Injectable()
export class FirstSteps {
  constructor(private readonly dataSource: DataSource) {}

  /** Nothing once all are done. */
  async view(): Promise<readonly FirstStep[]> {
    const columns = QUESTIONS.map(([id, question]) => `exists (${question}) as "${id}"`).join(', ');
    const [found]: Record<FirstStep['id'], boolean>[] = await this.dataSource.query(`select ${columns}`);
    const steps = QUESTIONS.map(([id]) => ({ id, done: found?.[id] ?? false }));
    return steps.every(({ done }) => done) ? [] : steps;
  }
}
