import { Module } from '@nestjs/common';
import { TypeOrmModule } from '@nestjs/typeorm';
import { LogbookModule } from '../logbook/logbook.module.ts';
import { DictionariesController } from './dictionaries.controller.ts';
import { Dictionaries } from './dictionaries.service.ts';
import { StoredDictionary } from './dictionary.entity.ts';
import { ModelImport } from './model-import.ts';
import { OwnModelsController } from './own-models.controller.ts';
import { OwnModels } from './own-models.service.ts';

@Module({
  imports: [TypeOrmModule.forFeature([StoredDictionary]), LogbookModule],
  controllers: [DictionariesController, OwnModelsController],
  providers: [Dictionaries, ModelImport, OwnModels],
  exports: [Dictionaries, ModelImport, OwnModels],
})
export class CatalogueModule {}
