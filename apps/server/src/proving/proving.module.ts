import { Module } from '@nestjs/common';
import { AccessModule } from '../access/access.module.ts';
import { CatalogueModule } from '../catalogue/catalogue.module.ts';
import { CompareModule } from '../compare/compare.module.ts';
import { LinesModule } from '../lines/lines.module.ts';
import { LiveModule } from '../live/live.module.ts';
import { LogbookModule } from '../logbook/logbook.module.ts';
import { ProofsModule } from '../proofs/proofs.module.ts';
import { RegisterModule } from '../register/register.module.ts';
import { SetsModule } from '../sets/sets.module.ts';
import { StorageModule } from '../storage/storage.module.ts';
import { WiringModule } from '../wiring/wiring.module.ts';
import { ProofGround } from './proof-ground.service.ts';
import { ProofRuns } from './proof-runs.service.ts';
import { ProofsController } from './proofs.controller.ts';
import { ProofViews } from './proof-views.service.ts';
import { ProofWatch } from './proof-watch.service.ts';

@Module({
  imports: [
    ...[AccessModule, CatalogueModule, CompareModule, LinesModule, LiveModule, LogbookModule],
    ...[ProofsModule, RegisterModule, SetsModule, StorageModule, WiringModule],
  ],
  controllers: [ProofsController],
  providers: [ProofRuns, ProofGround, ProofViews, ProofWatch],
  exports: [ProofViews],
})
export class ProvingModule {}
