import { Module } from '@nestjs/common';
import { CatalogueModule } from '../catalogue/catalogue.module.ts';
import { CompareModule } from '../compare/compare.module.ts';
import { DecisionsModule } from '../decisions/decisions.module.ts';
import { DraftsModule } from '../drafts/drafts.module.ts';
import { FilesModule } from '../files/files.module.ts';
import { KeyInModule } from '../key-in/key-in.module.ts';
import { LogbookModule } from '../logbook/logbook.module.ts';
import { RegisterModule } from '../register/register.module.ts';
import { SetsModule } from '../sets/sets.module.ts';
import { WiringModule } from '../wiring/wiring.module.ts';
import { WritingModule } from '../writing/writing.module.ts';
import { DraftComparison } from './draft-comparison.service.ts';
import { DraftFiles } from './draft-files.service.ts';
import { DraftSheets } from './draft-sheets.service.ts';
import { DraftUses } from './draft-uses.service.ts';
import { DraftViews } from './draft-views.service.ts';
import { DraftsController } from './drafts.controller.ts';
import { Drafts } from './drafts.service.ts';

@Module({
  imports: [
    DecisionsModule,
    WritingModule,
    KeyInModule,
    CompareModule,
    FilesModule,
    DraftsModule,
    SetsModule,
    WiringModule,
    RegisterModule,
    CatalogueModule,
    LogbookModule,
  ],
  controllers: [DraftsController],
  providers: [Drafts, DraftViews, DraftSheets, DraftUses, DraftComparison, DraftFiles],
  exports: [Drafts, DraftSheets, DraftViews],
})
export class DraftingModule {}
