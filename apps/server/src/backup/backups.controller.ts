import { Body, Controller, Get, HttpCode, Param, Post, Query, Res } from '@nestjs/common';
import { ApiOperation, ApiProperty, ApiPropertyOptional, ApiTags } from '@nestjs/swagger';
import type { StartedJob } from '@drive-keep/api';
import { SET_FILE_KINDS } from '@drive-keep/core/formats';
import { ArrayMaxSize, ArrayNotEmpty, IsArray, IsIn, IsString, MaxLength, MinLength } from 'class-validator';
import type { Response } from 'express';
import type { Account } from '../access/account.entity.ts';
import { NeedsRole, Person } from '../access/session.guard.ts';
import { SetExport } from '../files/set-export.service.ts';
import { BackupJobs } from './backup-jobs.service.ts';

/** The size that the whole is planned for. */
const MOST_POSITIONS = 5000;

class StartBackupBody {
  @ApiProperty({ type: [String], description: 'tags of positions' })
  @IsArray()
  @ArrayNotEmpty()
  @ArrayMaxSize(MOST_POSITIONS)
  @IsString({ each: true })
  @MaxLength(60, { each: true })
  positions: string[];

  @ApiProperty({ description: 'why, for the record' })
  @IsString()
  @MinLength(1)
  @MaxLength(200)
  reason: string;
}

class FileQuery {
  @ApiPropertyOptional({ enum: SET_FILE_KINDS })
  @IsIn(SET_FILE_KINDS)
  format: (typeof SET_FILE_KINDS)[number];
}

@ApiTags('backups')
@Controller()
export class BackupsController {
  constructor(
    private readonly jobs: BackupJobs,
    private readonly files: SetExport,
  ) {}

  @Post('backups')
  @NeedsRole('technician')
  @HttpCode(202)
  @ApiOperation({ summary: 'Back up positions; answers with the job that does it' })
  start(@Body() { positions, reason }: StartBackupBody, @Person() person: Account): Promise<StartedJob> {
    return this.jobs.start(positions, reason, person);
  }

  @Post('jobs/:id/run-again')
  @NeedsRole('technician')
  @HttpCode(202)
  @ApiOperation({ summary: 'Back up those units again that this job has not kept' })
  runAgain(@Param('id') id: string, @Person() person: Account): Promise<StartedJob> {
    return this.jobs.runAgain(id, person);
  }

  @Get('backups/:id/file')
  @ApiOperation({ summary: 'A backup as a file' })
  async file(
    @Param('id') id: string,
    @Query() { format }: FileQuery,
    @Person() person: Account,
    @Res() response: Response,
  ): Promise<void> {
    const { name, type, content } = await this.files.write(id, format, person);
    response
      .attachment(name)
      .type(type)
      .send(typeof content === 'string' ? content : Buffer.from(content));
  }
}
