import { Module } from '@nestjs/common';
import { CatalogueModule } from '../catalogue/catalogue.module.ts';
import { DraftsModule } from '../drafts/drafts.module.ts';
import { RegisterModule } from '../register/register.module.ts';
import { SetsModule } from '../sets/sets.module.ts';
import { AcrossController } from './across.controller.ts';
import { Across } from './across.service.ts';
import { ComparisonController } from './comparison.controller.ts';
import { PositionSets } from './position-sets.service.ts';
import { ReferencedSets } from './referenced-sets.service.ts';

@Module({
  imports: [DraftsModule, SetsModule, RegisterModule, CatalogueModule],
  controllers: [ComparisonController, AcrossController],
  providers: [Across, ReferencedSets, PositionSets],
  exports: [Across, ReferencedSets, PositionSets],
})
export class CompareModule {}
