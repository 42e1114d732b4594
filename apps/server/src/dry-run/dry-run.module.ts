import { Module } from '@nestjs/common';
import { CatalogueModule } from '../catalogue/catalogue.module.ts';
import { CompareModule } from '../compare/compare.module.ts';
import { FilesModule } from '../files/files.module.ts';
import { RegisterModule } from '../register/register.module.ts';
import { SetsModule } from '../sets/sets.module.ts';
import { WiringModule } from '../wiring/wiring.module.ts';
import { DryRunController } from './dry-run.controller.ts';
import { DryRuns } from './dry-run.service.ts';
import { ModelDryRunController } from './model-dry-run.controller.ts';
import { ModelDryRuns } from './model-dry-runs.service.ts';

@Module({
  imports: [CompareModule, CatalogueModule, FilesModule, RegisterModule, SetsModule, WiringModule],
  controllers: [DryRunController, ModelDryRunController],
  providers: [DryRuns, ModelDryRuns],
})
export class DryRunModule {}
