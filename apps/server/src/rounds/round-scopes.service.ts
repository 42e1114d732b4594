// Which positions a round covers now: by area, model and criticality; only units on a line can be read.

import { Injectable } from '@nestjs/common';
import type { RoundScope } from '@drive-keep/api';
import { DataSource } from 'typeorm';

@Injectable()
export class RoundScopes {
  constructor(private readonly dataSource: DataSource) {}

  async tags({ areas, models, criticalities }: RoundScope): Promise<readonly string[]> {
    const rows: { tag: string }[] = await this.dataSource.query(
      `select p.tag from position p
         join machine m on m.id = p.machine_id join area a on a.id = m.area_id
         join unit u on u.position_id = p.id and u.removed_at is null and u.line_id is not null
         join dictionary d on d.id = u.dictionary_id
        where p.retired_at is null and (cardinality($1::text[]) = 0 or a.name = any($1))
          and (cardinality($2::text[]) = 0 or d.model = any($2))
          and (cardinality($3::text[]) = 0 or p.criticality = any($3))
        order by a.place, m.place, p.place`,
      [areas, models, criticalities],
    );
    return rows.map(({ tag }) => tag);
  }
}
