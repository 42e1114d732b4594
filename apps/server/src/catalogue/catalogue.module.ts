import { Module } from '@nestjs/common';
import { TypeOrmModule } from '@nestjs/typeorm';
import { LinesModule } from '../lines/lines.module.ts';
import { LogbookModule } from '../logbook/logbook.module.ts';
import { CrossReferencesController } from './cross-references.controller.ts';
import { CrossReferences } from './cross-references.service.ts';
import { DictionariesController } from './dictionaries.controller.ts';
import { Dictionaries } from './dictionaries.service.ts';
import { StoredDictionary } from './dictionary.entity.ts';
import { DictionaryRevision } from './dictionary-revision.entity.ts';
import { DraftReading } from './draft-reading.service.ts';
import { Meanings } from './meanings.service.ts';
import { ModelDraft } from './model-draft.entity.ts';
import { ModelDraftsController } from './model-drafts.controller.ts';
import { MeaningProposals } from './meaning-proposals.service.ts';
import { ModelDrafts } from './model-drafts.service.ts';
import { ModelImport } from './model-import.ts';
import { OwnModelsController } from './own-models.controller.ts';
import { RegistersController } from './registers.controller.ts';
import { CrossReferenceRevision } from './cross-reference-revision.entity.ts';
import { StartingPointRevision } from './starting-point-revision.entity.ts';
import { StartingPointsController } from './starting-points.controller.ts';
import { StartingPoints } from './starting-points.service.ts';
import { StoredSettingTable } from './setting-table.entity.ts';
import { SettingTablesController } from './setting-tables.controller.ts';
import { SettingTables } from './setting-tables.service.ts';
import { OwnModels } from './own-models.service.ts';

@Module({
  imports: [
    TypeOrmModule.forFeature([
      StoredDictionary,
      DictionaryRevision,
      ModelDraft,
      CrossReferenceRevision,
      StartingPointRevision,
      StoredSettingTable,
    ]),
    LinesModule,
    LogbookModule,
  ],
  controllers: [
    DictionariesController,
    OwnModelsController,
    ModelDraftsController,
    RegistersController,
    CrossReferencesController,
    StartingPointsController,
    SettingTablesController,
  ],
  providers: [
    MeaningProposals,
    Dictionaries,
    ModelImport,
    OwnModels,
    ModelDrafts,
    DraftReading,
    Meanings,
    CrossReferences,
    StartingPoints,
    SettingTables,
  ],
  exports: [CrossReferences, Dictionaries, Meanings, ModelImport, OwnModels, StartingPoints],
})
export class CatalogueModule {}
