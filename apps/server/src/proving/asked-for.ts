// What has happened to a position since it was last proved: a unit that came in, a reset, values that were written or keyed in,
// another wiring. Whatever it was, the machine is worth a look.

import type { ProofAsked } from '@drive-keep/api';
import type { DataSource } from 'typeorm';

interface Happened {
  readonly at: Date;
  readonly kind: 'swap' | 'reset' | 'write' | 'key-in' | 'wiring';
  readonly who: string;
  readonly what: string;
}

const HAPPENED = `
select u.installed_at as at, 'swap' as kind, '' as who, u.serial::text as what
  from unit u where u.position_id = $1 and u.removed_at is null
   and exists (select 1 from unit o where o.position_id = $1 and o.id <> u.id and o.installed_at < u.installed_at)
union all
select p.ended_at, case p.kind when 'reset' then 'reset' else 'write' end, coalesce(p.released_by, p.planned_by), p.target
  from write_plan p join unit u on u.id = p.unit_id
 where p.position_id = $1 and u.removed_at is null and p.ended_at is not null
   and exists (select 1 from write_step s where s.plan_id = p.id and s.state = 'written')
union all
select k.finished_at, 'key-in', k.finished_by, k.target
  from key_in_sheet k join unit u on u.id = k.unit_id
 where k.position_id = $1 and u.removed_at is null and k.finished_at is not null
union all
select w.saved_at, 'wiring', w.saved_by, w.revision::text from wiring_revision w where w.position_id = $1 and w.revision > 1
order by at desc`;

const SAID: Readonly<Record<Happened['kind'], (each: Happened) => string>> = {
  swap: ({ what }) => `Unit serial ${what} came in`,
  reset: ({ who }) => `The unit was reset by ${who}`,
  write: ({ who }) => `Values were written by ${who}`,
  'key-in': ({ who }) => `Values were keyed in by ${who}`,
  wiring: ({ who, what }) => `Revision ${what} of the wiring was kept by ${who}`,
};

/** `proved` is when the last closed proof run of this unit began; nothing where there is none. */
export async function askedFor(
  dataSource: DataSource,
  positionId: string,
  proved: Date | null,
): Promise<ProofAsked | null> {
  const all: Happened[] = await dataSource.query(HAPPENED, [positionId]);
  const since = all.filter(({ at }) => proved === null || at > proved);
  const [last] = since;
  if (!last) return null;
  const others = since.length - 1;
  return {
    text: `${SAID[last.kind](last)}${others > 0 ? `, after ${others} other ${others === 1 ? 'change' : 'changes'}` : ''}`,
    since: last.at.toISOString(),
    whole: proved === null || since.some(({ kind }) => kind === 'swap' || kind === 'reset'),
  };
}
