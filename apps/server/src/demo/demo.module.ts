import { Module } from '@nestjs/common';
import { AccessModule } from '../access/access.module.ts';
import { CatalogueModule } from '../catalogue/catalogue.module.ts';
import { LogbookModule } from '../logbook/logbook.module.ts';
import { SetsModule } from '../sets/sets.module.ts';
import { ReplacingModule } from '../replacing/replacing.module.ts';
import { ChecksModule } from '../checks/checks.module.ts';
import { DemoFindings } from './demo-findings.service.ts';
import { ProvingModule } from '../proving/proving.module.ts';
import { TracesModule } from '../traces/traces.module.ts';
import { WiringModule } from '../wiring/wiring.module.ts';
import { DemoProofs } from './demo-proofs.service.ts';
import { DraftingModule } from '../drafting/drafting.module.ts';
import { DemoDrafts } from './demo-drafts.service.ts';
import { DemoTraces } from './demo-traces.service.ts';
import { DemoReplacements } from './demo-replacements.service.ts';
import { DemoPlant } from './demo-plant.service.ts';

@Module({
  imports: [
    ReplacingModule,
    DraftingModule,
    ChecksModule,
    TracesModule,
    ProvingModule,
    AccessModule,
    CatalogueModule,
    SetsModule,
    WiringModule,
    LogbookModule,
  ],
  providers: [DemoPlant, DemoFindings, DemoReplacements, DemoTraces, DemoProofs, DemoDrafts],
  exports: [DemoPlant],
})
export class DemoModule {}
