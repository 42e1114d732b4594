import { createHash } from 'node:crypto';
import type { WiringRevision } from './wiring-revision.entity.ts';

/**
 * Over all that was kept of a revision and the hash of the one before it: a chain in which none can be taken out or changed,
 * nor be said to come from somebody else.
 */
export const wiringHash = (
  { positionId, revision, dictionaryId, content, savedAt, savedBy, why }: Omit<WiringRevision, 'hash'>,
  before: string | undefined,
): string => {
  const kept = [
    before ?? '',
    positionId,
    revision,
    dictionaryId,
    savedAt.toISOString(),
    savedBy,
    why,
    content,
  ];
  return `sha256:${createHash('sha256').update(JSON.stringify(kept)).digest('hex')}`;
};
