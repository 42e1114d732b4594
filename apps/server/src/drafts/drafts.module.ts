import { Module } from '@nestjs/common';
import { TypeOrmModule } from '@nestjs/typeorm';
import { DraftField } from './draft-field.entity.ts';
import { DraftRevision } from './draft-revision.entity.ts';
import { DraftRevisions } from './draft-revisions.service.ts';
import { DraftUse } from './draft-use.entity.ts';
import { SettingsDraft } from './settings-draft.entity.ts';

@Module({
  imports: [TypeOrmModule.forFeature([SettingsDraft, DraftField, DraftRevision, DraftUse])],
  providers: [DraftRevisions],
  exports: [DraftRevisions],
})
export class DraftsModule {}
