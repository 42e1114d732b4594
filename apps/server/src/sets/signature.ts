// What a baseline's signature stands for: content, dictionary, wiring, proof run, signer, time, reason and the revision before,
// in one hash.
// Whoever exchanges one of them has to exchange every later revision, too, and the chain of evidence tells even that.

import { createHash } from 'node:crypto';

export interface Signed {
  readonly positionId: string;
  readonly revision: number;
  readonly contentHash: string;
  /** Hash of the files of the dictionary by which the content is read. */
  readonly dictionaryHash: string;
  readonly signedAt: Date;
  readonly signedBy: string;
  readonly reason: string;
  /** Signature of the revision before; nothing for the first. */
  readonly before: string | null;
  /** Of the wiring that was signed with it; nothing where the position had none, and in older revisions. */
  readonly wiringHash: string | null;
  /** Of the record of the proof run that showed on the machine what is signed; nothing where none had. */
  readonly proofHash: string | null;
}

/** SHA-256 (FIPS 180-4) over the facts in a fixed order, as `sha256:` and 64 hexadecimal digits. */
export function signatureOf(signed: Signed): string {
  const { positionId, revision, contentHash, dictionaryHash, signedAt, signedBy, reason } = signed;
  const { before, wiringHash, proofHash } = signed;
  const facts = [positionId, revision, contentHash, dictionaryHash, signedAt.toISOString(), signedBy, reason];
  const named = [
    ...(wiringHash === null ? [] : [wiringHash]),
    ...(proofHash === null ? [] : [`proof ${proofHash}`]),
  ];
  const text = JSON.stringify([...facts, before, ...named]);
  return `sha256:${createHash('sha256').update(text).digest('hex')}`;
}
