// Which decisions in force still say something about what a unit holds: a toleration ends on its day, and any decision
// ends when the baseline or the unit has another value than the one that was decided about.

import { Injectable } from '@nestjs/common';
import type { ParameterSet } from '@drive-keep/core/sets';
import { sameReading } from '@drive-keep/core/values';
import { DataSource } from 'typeorm';
import { Decision } from './decision.entity.ts';

/** Baseline and newest backup of a position. */
export interface ComparedPair {
  readonly positionId: string;
  readonly baseline: ParameterSet;
  readonly newest: ParameterSet;
}

@Injectable()
export class Tolerations {
  constructor(private readonly dataSource: DataSource) {}

  async inForce({ positionId, baseline, newest }: ComparedPair, today: string): Promise<Decision[]> {
    const all = await this.dataSource
      .getRepository(Decision)
      .find({ where: { position: { id: positionId }, state: 'in-force' }, order: { code: 'ASC' } });
    return all.filter((decision) => holds(decision, baseline, newest, today));
  }

  /** Positions that have a toleration at all; the others need no second look. */
  async among(): Promise<ReadonlySet<string>> {
    const rows = await this.dataSource.getRepository(Decision).find({
      where: { state: 'in-force', kind: 'tolerate' },
      relations: { position: true },
      select: { id: true, position: { id: true } },
    });
    return new Set(rows.map(({ position }) => position.id));
  }
}

function holds(decision: Decision, baseline: ParameterSet, newest: ParameterSet, today: string): boolean {
  if (decision.kind === 'tolerate' && (decision.until ?? '') < today) return false;
  const code = decision.code as never;
  return (
    sameReading(decision.wanted ?? undefined, baseline.readings.get(code)) &&
    sameReading(decision.found ?? undefined, newest.readings.get(code))
  );
}

/** A day that there is: 2027-02-31 is none. */
export const isDay = (text: string): boolean => {
  const time = new Date(`${text}T00:00:00Z`);
  return !Number.isNaN(time.getTime()) && time.toISOString().startsWith(text);
};

/** The day as the database keeps it: 2026-11-25. */
export const dayOf = (time: Date): string => {
  const two = (number: number) => String(number).padStart(2, '0');
  return `${time.getFullYear()}-${two(time.getMonth() + 1)}-${two(time.getDate())}`;
};
