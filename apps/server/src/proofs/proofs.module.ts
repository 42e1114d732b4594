import { Module } from '@nestjs/common';
import { TypeOrmModule } from '@nestjs/typeorm';
import { ProofEnd } from './proof-end.entity.ts';
import { ProofEvidence } from './proof-evidence.entity.ts';
import { ProofRun } from './proof-run.entity.ts';
import { ProofSaying } from './proof-saying.entity.ts';
import { Proofs } from './proofs.service.ts';

@Module({
  imports: [TypeOrmModule.forFeature([ProofRun, ProofEvidence, ProofSaying, ProofEnd])],
  providers: [Proofs],
  exports: [Proofs],
})
export class ProofsModule {}
