import { Module } from '@nestjs/common';
import { DraftsModule } from '../drafts/drafts.module.ts';
import { LogbookModule } from '../logbook/logbook.module.ts';
import { CatalogueModule } from '../catalogue/catalogue.module.ts';
import { SetsModule } from '../sets/sets.module.ts';
import { HealthController } from './health.controller.ts';
import { IntegrityController } from './integrity.controller.ts';
import { TypeOrmModule } from '@nestjs/typeorm';
import { StorageModule } from '../storage/storage.module.ts';
import { TracesModule } from '../traces/traces.module.ts';
import { WiringModule } from '../wiring/wiring.module.ts';
import { EvidenceChain } from './evidence-chain.service.ts';
import { IntegrityCheck } from './integrity-check.entity.ts';
import { Integrity } from './integrity.service.ts';

@Module({
  imports: [
    TypeOrmModule.forFeature([IntegrityCheck]),
    DraftsModule,
    SetsModule,
    WiringModule,
    CatalogueModule,
    LogbookModule,
    StorageModule,
    TracesModule,
  ],
  controllers: [IntegrityController, HealthController],
  providers: [Integrity, EvidenceChain],
  exports: [Integrity, EvidenceChain],
})
export class IntegrityModule {}
