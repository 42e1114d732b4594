import { Module } from '@nestjs/common';
import { TypeOrmModule } from '@nestjs/typeorm';
import { CatalogueModule } from '../catalogue/catalogue.module.ts';
import { CompareModule } from '../compare/compare.module.ts';
import { KeyInModule } from '../key-in/key-in.module.ts';
import { LogbookModule } from '../logbook/logbook.module.ts';
import { PlantModule } from '../plant/plant.module.ts';
import { RegisterModule } from '../register/register.module.ts';
import { SetsModule } from '../sets/sets.module.ts';
import { TolerationsModule } from '../tolerations/tolerations.module.ts';
import { WiringModule } from '../wiring/wiring.module.ts';
import { WritingModule } from '../writing/writing.module.ts';
import { StorageModule } from '../storage/storage.module.ts';
import { BaselineDraft } from './baseline-draft.entity.ts';
import { BaselineDrafts } from './baseline-drafts.service.ts';
import { DecisionsController } from './decisions.controller.ts';
import { Decisions } from './decisions.service.ts';

@Module({
  imports: [
    TypeOrmModule.forFeature([BaselineDraft]),
    WritingModule,
    KeyInModule,
    CompareModule,
    TolerationsModule,
    SetsModule,
    RegisterModule,
    CatalogueModule,
    PlantModule,
    LogbookModule,
    StorageModule,
    WiringModule,
  ],
  controllers: [DecisionsController],
  providers: [BaselineDrafts, Decisions],
  exports: [BaselineDrafts, Decisions],
})
export class DecisionsModule {}
