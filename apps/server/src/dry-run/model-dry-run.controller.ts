import { Body, Controller, HttpCode, Param, Post, UploadedFile } from '@nestjs/common';
import { ApiOperation, ApiProperty, ApiTags } from '@nestjs/swagger';
import type { DryRunSetView, DryRunWiringView } from '@drive-keep/api';
import { IsString, MaxLength } from 'class-validator';
import { NeedsRole } from '../access/session.guard.ts';
import { TakesFile } from '../file-content/file-upload.ts';
import { givenFile, type UploadedFile as SentFile } from '../file-content/uploaded-file.ts';
import { ModelDryRuns } from './model-dry-runs.service.ts';

class OutfitBody {
  @ApiProperty() @IsString() @MaxLength(80) rating: string;
  @ApiProperty() @IsString() @MaxLength(80) region: string;
}

@ApiTags('dry-run')
@Controller('dictionaries/:id/dry-run')
export class ModelDryRunController {
  constructor(private readonly dryRuns: ModelDryRuns) {}

  @Post('set')
  @NeedsRole('technician')
  @HttpCode(200)
  @TakesFile()
  @ApiOperation({ summary: 'How a file is understood as a set of this model; nothing is kept' })
  set(
    @Param('id') id: string,
    @Body() { rating, region }: OutfitBody,
    @UploadedFile() file: SentFile | undefined,
  ): Promise<DryRunSetView> {
    return this.dryRuns.set(id, { rating, region }, givenFile(file, 'a JSON, CSV, XLSX or DCF file'));
  }

  @Post('wiring')
  @NeedsRole('technician')
  @HttpCode(200)
  @TakesFile()
  @ApiOperation({ summary: 'How a file is understood as a wiring of this model; nothing is kept' })
  wiring(@Param('id') id: string, @UploadedFile() file: SentFile | undefined): Promise<DryRunWiringView> {
    return this.dryRuns.wiring(id, givenFile(file, 'a wiring as CSV or XLSX'));
  }
}
