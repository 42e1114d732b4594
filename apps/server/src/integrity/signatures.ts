// Signed baselines against what they stand for: each signature is made again, and each revision follows the one before.

import type { IntegrityFinding } from '@drive-keep/api';
import type { EntityManager } from 'typeorm';
import { signatureOf } from '../sets/signature.ts';

interface Row {
  readonly tag: string | null;
  readonly position_id: string;
  readonly revision: number;
  readonly content_hash: string;
  readonly signed_at: Date;
  readonly signed_by: string;
  readonly reason: string;
  readonly dictionary_hash: string;
  readonly before: string | null;
  readonly wiring_revision: number | null;
  readonly wiring_hash: string | null;
  readonly kept_wiring: string | null;
  readonly proof_hash: string | null;
  readonly kept_proof: string | null;
  readonly signature: string;
  readonly files_hash: string | null;
}

export async function checkSignatures(manager: EntityManager): Promise<readonly IntegrityFinding[]> {
  const rows: Row[] = await manager.query(
    `select b.*, p.tag, d.files_hash, w.hash as kept_wiring, e.hash as kept_proof
       from baseline b left join position p on p.id = b.position_id left join proof_end e on e.hash = b.proof_hash
       left join set_content c on c.hash = b.content_hash left join dictionary d on d.id = c.dictionary_id
       left join wiring_revision w on w.position_id = b.position_id and w.revision = b.wiring_revision
      order by b.position_id, b.revision`,
  );
  return rows.flatMap((row, at) => {
    const last = rows[at - 1]?.position_id === row.position_id ? rows[at - 1] : undefined;
    const text = faultOf(row, last);
    const name = `Revision ${row.revision} of the baseline of ${row.tag ?? row.position_id}`;
    return text === undefined
      ? []
      : [{ kind: 'signature' as const, what: 'baseline', text: `${name} ${text}` }];
  });
}

function faultOf(row: Row, last: Row | undefined): string | undefined {
  const made = signatureOf({
    ...{ positionId: row.position_id, revision: row.revision, contentHash: row.content_hash },
    ...{ dictionaryHash: row.dictionary_hash, signedAt: row.signed_at, signedBy: row.signed_by },
    ...{ reason: row.reason, before: row.before, wiringHash: row.wiring_hash },
    proofHash: row.proof_hash,
  });
  if (made !== row.signature) return 'is not what was signed: one of its facts was exchanged.';
  if (row.revision !== (last?.revision ?? 0) + 1)
    return 'does not follow the one before: a revision is missing.';
  if (row.before !== (last?.signature ?? null))
    return 'was signed after another revision than the one that stands there.';
  if (row.files_hash !== null && row.dictionary_hash !== row.files_hash)
    return 'was signed by another dictionary than the one that is kept.';
  if (row.wiring_hash !== row.kept_wiring)
    return `was signed with another wiring than the one that is kept as revision ${row.wiring_revision}.`;
  if (row.proof_hash !== row.kept_proof)
    return 'was signed with a proof run of which no such record is kept.';
  return undefined;
}
