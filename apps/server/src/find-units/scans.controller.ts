import { Body, Controller, Get, HttpCode, Param, Post } from '@nestjs/common';
import { ApiOperation, ApiProperty, ApiTags } from '@nestjs/swagger';
import type { ScanView } from '@drive-keep/api';
import { IsInt, IsString, Max, MaxLength, Min } from 'class-validator';
import type { Account } from '../access/account.entity.ts';
import { NeedsRole, Person } from '../access/session.guard.ts';
import { Scans } from './scans.service.ts';

class ScanBody {
  @ApiProperty({ description: 'name of the line' }) @IsString() @MaxLength(60) line: string;
  @ApiProperty() @IsInt() @Min(1) @Max(247) from: number;
  @ApiProperty() @IsInt() @Min(1) @Max(247) to: number;
}

@ApiTags('register')
@Controller('scans')
export class ScansController {
  constructor(private readonly scans: Scans) {}

  @Post()
  @NeedsRole('technician')
  @HttpCode(202)
  @ApiOperation({ summary: 'Search a line for units' })
  start(@Body() { line, from, to }: ScanBody, @Person() person: Account): Promise<ScanView> {
    return this.scans.start(line, from, to, person);
  }

  @Get()
  @ApiOperation({ summary: 'The last searches, the newest first' })
  recent(): Promise<readonly ScanView[]> {
    return this.scans.recent();
  }

  @Get(':id')
  @ApiOperation({ summary: 'One search with what it has found so far' })
  view(@Param('id') id: string): Promise<ScanView> {
    return this.scans.view(id);
  }

  @Post(':id/stop')
  @NeedsRole('technician')
  @HttpCode(200)
  @ApiOperation({ summary: 'Stop a search; what it found stays' })
  stop(@Param('id') id: string): Promise<ScanView> {
    return this.scans.stop(id);
  }
}
