// Signing baselines: each revision stands for its content, its dictionary, the wiring, the proof run, who signed it when
// and why, and the one before.

import { Injectable } from '@nestjs/common';
import type { EntityManager } from 'typeorm';
import { Dictionaries } from '../catalogue/dictionaries.service.ts';
import { Wirings } from '../wiring/wirings.service.ts';
import { Proofs, type ClosedProof } from '../proofs/proofs.service.ts';
import { Baseline } from './baseline.entity.ts';
import { Drift } from './drift.service.ts';
import { signatureOf } from './signature.ts';

export interface NewRevision {
  readonly positionId: string;
  readonly contentHash: string;
  readonly dictionary: string;
  readonly signedAt: Date;
  readonly signedBy: string;
  readonly reason: string;
}

@Injectable()
export class Baselines {
  constructor(
    private readonly dictionaries: Dictionaries,
    private readonly wirings: Wirings,
    private readonly proofs: Proofs,
    private readonly drift: Drift,
  ) {}

  newest(manager: EntityManager, positionId: string): Promise<Baseline | null> {
    const where = { position: { id: positionId } };
    return manager.findOne(Baseline, { where, order: { revision: 'DESC' } });
  }

  /** The newest proof run of the unit that sits there now in which all that was tried of these settings passed. */
  async provedBy(
    positionId: string,
    contentHash: string,
    manager?: EntityManager,
  ): Promise<ClosedProof | undefined> {
    for (const proof of await this.proofs.closed(positionId, manager)) {
      const good = proof.failed === 0 && proof.passed > 0;
      if (good && (await this.drift.count(contentHash, proof.setHash)) === 0) return proof;
    }
    return undefined;
  }

  /** The next revision; the caller has made sure that nobody else signs one at the same time. */
  async sign(manager: EntityManager, { dictionary, ...fresh }: NewRevision): Promise<number> {
    const last = await this.newest(manager, fresh.positionId);
    const wiring = await this.wirings.seal(fresh.positionId, manager);
    const proof = await this.provedBy(fresh.positionId, fresh.contentHash, manager);
    const signed = {
      ...fresh,
      revision: (last?.revision ?? 0) + 1,
      dictionaryHash: await this.dictionaries.hashOf(dictionary),
      before: last?.signature ?? null,
      wiringRevision: wiring?.revision ?? null,
      wiringHash: wiring?.hash ?? null,
      proofHash: proof?.hash ?? null,
    };
    const { positionId, ...columns } = signed;
    const signature = signatureOf(signed);
    await manager.insert(Baseline, { ...columns, position: { id: positionId }, signature });
    return signed.revision;
  }
}
