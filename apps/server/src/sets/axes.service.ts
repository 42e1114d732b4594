// Keeps the sets of the axes of one machine apart: a set that bears the marks of another axis is refused with the reason.

import { meaningOf } from '@drive-keep/core/values';
import { Injectable } from '@nestjs/common';
import { findMeaning, type Dictionary } from '@drive-keep/core/dictionary';
import { otherAxisOf, type KnownAxis } from '@drive-keep/core/plans';
import type { ParameterSet } from '@drive-keep/core/sets';
import { DataSource } from 'typeorm';
import { ProblemException } from '../problems/problem.ts';
import type { Position } from '../register/position.entity.ts';
import { ContentStore } from './content-store.service.ts';

@Injectable()
export class Axes {
  constructor(
    private readonly dataSource: DataSource,
    private readonly contents: ContentStore,
  ) {}

  /**
   * In words, where the set is another axis's; nothing where it is this position's, or no axis's at all. `serial` is that of
   * the unit it was read from, where a file tells it.
   */
  async strangeness(
    { id, tag }: Pick<Position, 'id' | 'tag'>,
    dictionary: Dictionary,
    set: ParameterSet,
    serial: number | null = null,
  ): Promise<string | undefined> {
    if (!findMeaning(dictionary, meaningOf('axis.number'))) return undefined;
    const elsewhere = serial === null ? undefined : await this.whereItSat(id, serial);
    if (elsewhere !== undefined)
      return `This is a set of ${elsewhere}, not of ${tag}: it was read from serial number ${serial}, which is that axis's unit.`;
    const known = await this.ofMachine(id);
    const own = known.find((each) => each.tag === tag);
    if (!own) return undefined;
    const others = known.filter((each) => each !== own);
    const other = otherAxisOf(dictionary, set, own, others);
    if (!other) return undefined;
    return `This is a set of ${other.tag}, not of ${tag}: ${other.codes.join(', ')} ${other.codes.length === 1 ? 'is' : 'are'} that axis's.`;
  }

  async requireOwn(position: Position, dictionary: Dictionary, set: ParameterSet): Promise<void> {
    const strange = await this.strangeness(position, dictionary, set);
    if (strange === undefined) return;
    throw new ProblemException(422, 'other-axis', `${strange} Nothing was planned.`);
  }

  /** The other axis of the machine at which this unit sits or sat, unless it sat at this one, too. */
  private async whereItSat(positionId: string, serial: number): Promise<string | undefined> {
    const rows: { id: string; tag: string }[] = await this.dataSource.query(
      `select p.id, p.tag from unit u join position p on p.id = u.position_id
        where u.serial = $2 and p.machine_id = (select machine_id from position where id = $1)
        order by u.removed_at desc nulls first`,
      [positionId, serial],
    );
    return rows.some(({ id }) => id === positionId) ? undefined : rows[0]?.tag;
  }

  /** What the positions of the machine are known to hold: their baselines, or their newest backups without one. */
  private async ofMachine(positionId: string): Promise<readonly KnownAxis[]> {
    const rows: { tag: string; hash: string }[] = await this.dataSource.query(
      `select p.tag, coalesce(
                (select content_hash from baseline where position_id = p.id order by revision desc limit 1),
                (select b.content_hash from last_look l join backup b on b.id = l.backup_id where l.position_id = p.id)
              ) as hash
         from position p
        where p.machine_id = (select machine_id from position where id = $1) and p.retired_at is null`,
      [positionId],
    );
    const kept = rows.filter(({ hash }) => hash !== null);
    const axes = await Promise.all(
      kept.map(async ({ tag, hash }) => ({ tag, set: await this.contents.getIfGood(hash) })),
    );
    return axes.flatMap(({ tag, set }) => (set ? [{ tag, set }] : []));
  }
}
