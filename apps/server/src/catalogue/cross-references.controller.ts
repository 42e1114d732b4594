import { Controller, Get, Param } from '@nestjs/common';
import { ApiOperation, ApiTags } from '@nestjs/swagger';
import type { CrossReferenceView } from '@drive-keep/api';
import { CrossReferences } from './cross-references.service.ts';

@ApiTags('catalogue')
@Controller('cross-references')
export class CrossReferencesController {
  constructor(private readonly references: CrossReferences) {}

  @Get(':old/:fresh')
  @ApiOperation({ summary: 'What no bridge can know of a model that another one replaces' })
  of(@Param('old') old: string, @Param('fresh') fresh: string): CrossReferenceView {
    return { old, fresh, text: this.references.textOf(old, fresh) };
  }
}
