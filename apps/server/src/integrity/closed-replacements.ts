// Whether the closed sheets of replacements are what was kept: each stands under the hash of its text.

import type { IntegrityFinding } from '@drive-keep/api';
import type { EntityManager } from 'typeorm';

export async function checkReplacements(manager: EntityManager): Promise<readonly IntegrityFinding[]> {
  const rows: { tag: string }[] = await manager.query(
    `select p.tag from replacement r join position p on p.id = r.position_id
      where r.state = 'closed' and r.record_hash is distinct from encode(sha256(convert_to(r.record, 'UTF8')), 'hex')
      order by p.tag`,
  );
  return rows.map(({ tag }) => ({
    kind: 'changed' as const,
    what: 'replacement',
    text: `The closed sheet of the replacement of ${tag} is damaged: it is not what was kept. Restore a copy of the database.`,
  }));
}
