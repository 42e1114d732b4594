// The newest look at each position is kept at hand for the register. It has to follow from the backups and from what was
// found again; where it does not, the register shows something that nobody has read.

import type { IntegrityFinding } from '@drive-keep/api';
import type { EntityManager } from 'typeorm';

const UNFOUNDED = `
with looks as (
  select b.position_id, b.id as backup_id, b.taken_at as at, b.taken_by, b.reason, b.aside::text as aside
    from backup b where b.how <> 'imported'
  union all
  select b.position_id, b.id, f.at, f.taken_by, f.reason, null
    from found_again f join found_list l on l.id = f.list_id
    join backup b on b.seq = any(l.seqs)
), newest as (
  select position_id, max(at) as at from looks group by position_id
)
select p.tag
  from newest n join position p on p.id = n.position_id
  left join last_look own on own.position_id = n.position_id
 where not exists (
         select 1 from looks k
          where k.position_id = n.position_id and k.at = n.at and k.backup_id = own.backup_id and own.at = k.at
            and k.taken_by = own.taken_by and k.reason = own.reason
            and (k.aside is null or k.aside = own.aside::text))
   -- What a job at work has found is written down when the job ends.
   and not exists (
         select 1 from job_item i join unit u on u.id = i.unit_id
          where u.position_id = n.position_id and i.found_again = 'to-record')
union
select p.tag from last_look own join position p on p.id = own.position_id
 where not exists (select 1 from newest n where n.position_id = own.position_id)
order by 1`;

export async function checkLooks(manager: EntityManager): Promise<readonly IntegrityFinding[]> {
  const rows: { tag: string }[] = await manager.query(UNFOUNDED);
  return rows.map(({ tag }) => ({
    kind: 'look' as const,
    what: 'last_look',
    text: `What the register shows as the newest look at ${tag} does not follow from its backups.`,
  }));
}
