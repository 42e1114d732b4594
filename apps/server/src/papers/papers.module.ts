import { Module } from '@nestjs/common';
import { CatalogueModule } from '../catalogue/catalogue.module.ts';
import { ChecksModule } from '../checks/checks.module.ts';
import { CompareModule } from '../compare/compare.module.ts';
import { DecisionsModule } from '../decisions/decisions.module.ts';
import { KeyInModule } from '../key-in/key-in.module.ts';
import { LogbookModule } from '../logbook/logbook.module.ts';
import { OverviewModule } from '../overview/overview.module.ts';
import { PlantModule } from '../plant/plant.module.ts';
import { RegisterModule } from '../register/register.module.ts';
import { SetsModule } from '../sets/sets.module.ts';
import { WiringModule } from '../wiring/wiring.module.ts';
import { LabelsController } from './labels.controller.ts';
import { Labels } from './labels.service.ts';
import { PapersController } from './papers.controller.ts';
import { ReplacingModule } from '../replacing/replacing.module.ts';
import { ProvingModule } from '../proving/proving.module.ts';
import { ProofPapersController } from './proof-papers.controller.ts';
import { DraftPapersController } from './draft-papers.controller.ts';
import { DraftsModule } from '../drafts/drafts.module.ts';
import { Papers } from './papers.service.ts';
import { ReplacementPapersController } from './replacement-papers.controller.ts';
import { ReplacementPapers } from './replacement-papers.service.ts';

@Module({
  imports: [
    ReplacingModule,
    DraftsModule,
    ProvingModule,
    DecisionsModule,
    KeyInModule,
    CompareModule,
    OverviewModule,
    ChecksModule,
    SetsModule,
    WiringModule,
    RegisterModule,
    CatalogueModule,
    PlantModule,
    LogbookModule,
  ],
  controllers: [
    PapersController,
    ReplacementPapersController,
    ProofPapersController,
    DraftPapersController,
    LabelsController,
  ],
  providers: [Papers, ReplacementPapers, Labels],
  exports: [Papers],
})
export class PapersModule {}
