import { Module } from '@nestjs/common';
import { TypeOrmModule } from '@nestjs/typeorm';
import { CatalogueModule } from '../catalogue/catalogue.module.ts';
import { ChangesModule } from '../changes/changes.module.ts';
import { ChecksModule } from '../checks/checks.module.ts';
import { CompareModule } from '../compare/compare.module.ts';
import { DecisionsModule } from '../decisions/decisions.module.ts';
import { LogbookModule } from '../logbook/logbook.module.ts';
import { RegisterModule } from '../register/register.module.ts';
import { SetsModule } from '../sets/sets.module.ts';
import { WiringModule } from '../wiring/wiring.module.ts';
import { WritingModule } from '../writing/writing.module.ts';
import { OverviewModule } from '../overview/overview.module.ts';
import { StorageModule } from '../storage/storage.module.ts';
import { OrderLists } from './order-lists.service.ts';
import { ReplaceListsController } from './replace-lists.controller.ts';
import { ReplaceLists } from './replace-lists.service.ts';
import { ReplacementChecks } from './replacement-checks.service.ts';
import { ReplacementDoingController } from './replacement-doing.controller.ts';
import { ReplacementDoing } from './replacement-doing.service.ts';
import { ReplacementGround } from './replacement-ground.service.ts';
import { ReplacementSaying } from './replacement-saying.entity.ts';
import { ReplacementSheets } from './replacement-sheets.service.ts';
import { ReplacementViews } from './replacement-views.service.ts';
import { Replacement } from './replacement.entity.ts';
import { ReplacementsController } from './replacements.controller.ts';
import { Replacements } from './replacements.service.ts';

@Module({
  imports: [
    TypeOrmModule.forFeature([Replacement, ReplacementSaying]),
    ChangesModule,
    ChecksModule,
    DecisionsModule,
    OverviewModule,
    StorageModule,
    WritingModule,
    CompareModule,
    SetsModule,
    RegisterModule,
    WiringModule,
    CatalogueModule,
    LogbookModule,
  ],
  controllers: [ReplacementsController, ReplacementDoingController, ReplaceListsController],
  providers: [
    Replacements,
    ReplacementGround,
    ReplacementViews,
    ReplacementSheets,
    ReplacementChecks,
    ReplacementDoing,
    ReplaceLists,
    OrderLists,
  ],
  exports: [Replacements, ReplacementSheets, ReplacementGround],
})
export class ReplacingModule {}
