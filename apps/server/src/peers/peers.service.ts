// Positions of one duty side by side: their newest backups as columns, agreement counted, the odd one out named.

import { Injectable } from '@nestjs/common';
import { DataSource } from 'typeorm';
import type { PeerGroup, PeersView } from '@drive-keep/api';
import { comparePeers } from '@drive-keep/core/compare';
import { Dictionaries } from '../catalogue/dictionaries.service.ts';
import { ProblemException } from '../problems/problem.ts';
import { Register } from '../register/register.service.ts';
import { Backups } from '../sets/backups.service.ts';
import { ContentStore } from '../sets/content-store.service.ts';

@Injectable()
export class Peers {
  constructor(
    private readonly dataSource: DataSource,
    private readonly register: Register,
    private readonly backups: Backups,
    private readonly contents: ContentStore,
    private readonly dictionaries: Dictionaries,
  ) {}

  async groups(): Promise<readonly PeerGroup[]> {
    const rows: { area: string; machine: string; model: string; tags: string[]; models: number }[] =
      await this.dataSource.query(
        `select a.name as area, m.name as machine, d.name as model,
                array_agg(p.tag order by p.place, p.tag) as tags,
                (count(*) over (partition by m.id))::int as models
           from position p join machine m on m.id = p.machine_id join area a on a.id = m.area_id
           join unit u on u.position_id = p.id and u.removed_at is null
           join dictionary d on d.id = u.dictionary_id
          group by a.name, a.place, m.id, m.name, m.place, d.model, d.name
          order by a.place, m.place, d.name`,
      );
    return rows
      .filter(({ tags }) => tags.length > 1)
      .map(({ area, machine, model, tags, models }) => ({
        name: `${area}, ${machine}${models > 1 ? ` (${model})` : ''}`,
        tags,
      }));
  }

  async compare(tags: readonly string[]): Promise<PeersView> {
    const units = await this.register.find(tags);
    const newest = await Promise.all(units.map(({ position }) => this.backups.newest(position.id)));
    const kept = await Promise.all(
      newest.map(async (backup) => backup && this.contents.getIfGood(backup.contentHash)),
    );
    const columns = units.flatMap(({ position }, at) => {
      const [backup, set] = [newest[at], kept[at]];
      return backup && set ? [{ position, backup, set }] : [];
    });
    const sets = columns.map(({ set }) => set);
    const [first] = sets;
    if (!first || sets.length < 2)
      throw refused('Fewer than two of these positions have a backup. Back them up first.');
    const ids = [...new Set(sets.map(({ dictionary }) => dictionary))];
    const [dictionary, ...versions] = await Promise.all(ids.map((id) => this.dictionaries.get(id)));
    if (!dictionary) throw refused('Choose positions that have a backup.');
    const other = versions.find(({ model }) => model !== dictionary.model);
    if (other) {
      const tag = columns.find(({ set }) => set.dictionary === other.id)?.position.tag ?? '';
      throw refused(
        `${tag} is of another model (${other.id}, not ${first.dictionary}). Compare peers of one model.`,
      );
    }
    const { rows, agreed, leftOut } = comparePeers(dictionary, sets, versions);
    const missing = tags.filter((tag) => columns.every(({ position }) => position.tag !== tag));
    return {
      dictionary: dictionary.id,
      versions: ids,
      columns: columns.map(({ position, backup }) => ({
        tag: position.tag,
        duty: position.duty,
        at: backup.takenAt.toISOString(),
      })),
      withoutBackup: missing,
      rows: rows.map(({ code, readings, usual, shares, odd }) => ({
        code,
        readings: readings.map((reading) => reading ?? null),
        usual: usual ?? null,
        shares,
        odd,
      })),
      agreed,
      leftOut,
    };
  }
}

const refused = (detail: string): ProblemException => new ProblemException(422, 'peers', detail);
