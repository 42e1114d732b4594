import { Module } from '@nestjs/common';
import { AccessModule } from '../access/access.module.ts';
import { CatalogueModule } from '../catalogue/catalogue.module.ts';
import { LogbookModule } from '../logbook/logbook.module.ts';
import { SetsModule } from '../sets/sets.module.ts';
import { ReplacingModule } from '../replacing/replacing.module.ts';
import { ChecksModule } from '../checks/checks.module.ts';
import { DemoFindings } from './demo-findings.service.ts';
import { TracesModule } from '../traces/traces.module.ts';
import { DemoTraces } from './demo-traces.service.ts';
import { DemoReplacements } from './demo-replacements.service.ts';
import { DemoPlant } from './demo-plant.service.ts';

@Module({
  imports: [
    ReplacingModule,
    ChecksModule,
    TracesModule,
    AccessModule,
    CatalogueModule,
    SetsModule,
    LogbookModule,
  ],
  providers: [DemoPlant, DemoFindings, DemoReplacements, DemoTraces],
  exports: [DemoPlant],
})
export class DemoModule {}
