import { Body, Controller, Get, HttpCode, Param, Post, Put } from '@nestjs/common';
import { ApiOperation, ApiProperty, ApiTags, IntersectionType } from '@nestjs/swagger';
import type { LineTrial, LineView } from '@drive-keep/api';
import { Transform } from 'class-transformer';
import { IsIn, IsInt, Matches, Max, MaxLength, Min } from 'class-validator';
import type { Account } from '../access/account.entity.ts';
import { NeedsRole, Person } from '../access/session.guard.ts';
import { VersionBody } from '../problems/same-version.ts';
import { LineChanges } from './line-changes.service.ts';
import { FRAMINGS, SETTING_LIMITS, type Framing } from './line-settings.ts';

const [LEAST_PORT, MOST_PORT] = SETTING_LIMITS.port;

class SettingsBody {
  @ApiProperty({ example: '10.0.4.21' })
  @Transform(({ value }: { value: unknown }) =>
    typeof value === 'string' ? value.trim().toLowerCase() : value,
  )
  @MaxLength(253)
  @Matches(/^[a-z0-9]([a-z0-9.:-]*[a-z0-9])?$/, {
    message: 'host must be an address such as 10.0.4.21 or a name, without "http://" and without a port',
  })
  host: string;
  @ApiProperty({ example: 502 }) @IsInt() @Min(LEAST_PORT) @Max(MOST_PORT) port: number;
  @ApiProperty({ enum: FRAMINGS }) @IsIn(FRAMINGS) framing: Framing;
  @ApiProperty({ example: 1000 })
  @IsInt()
  @Min(SETTING_LIMITS.timeoutMs[0])
  @Max(SETTING_LIMITS.timeoutMs[1])
  timeoutMs: number;
  @ApiProperty({ example: 1 })
  @IsInt()
  @Min(SETTING_LIMITS.retries[0])
  @Max(SETTING_LIMITS.retries[1])
  retries: number;
  @ApiProperty({ example: 0 })
  @IsInt()
  @Min(SETTING_LIMITS.pauseMs[0])
  @Max(SETTING_LIMITS.pauseMs[1])
  pauseMs: number;
  @ApiProperty({ example: 125 })
  @IsInt()
  @Min(SETTING_LIMITS.largestRead[0])
  @Max(SETTING_LIMITS.largestRead[1])
  largestRead: number;
}

class LineBody extends SettingsBody {
  @ApiProperty({ example: 'kiln-gateway' })
  @Matches(/^\S(.{0,38}\S)?$/u, { message: 'name must be 1 to 40 characters without a space at its ends' })
  name: string;
}

class LineChangeBody extends IntersectionType(LineBody, VersionBody) {}

@ApiTags('lines')
@Controller('lines')
export class LinesController {
  constructor(private readonly lines: LineChanges) {}

  @Get()
  @ApiOperation({ summary: 'The lines of the plant, retired ones too' })
  all(): Promise<readonly LineView[]> {
    return this.lines.views();
  }

  @Post()
  @NeedsRole('engineer')
  @ApiOperation({ summary: 'Add a line' })
  add(@Body() body: LineBody, @Person() person: Account): Promise<LineView> {
    return this.lines.add(body, person);
  }

  @Post('try')
  @NeedsRole('technician')
  @HttpCode(200)
  @ApiOperation({ summary: 'Ask behind a gateway who is there; nothing is written and nothing kept' })
  try(@Body() body: SettingsBody): Promise<LineTrial> {
    return this.lines.try(body);
  }

  @Put(':id')
  @NeedsRole('engineer')
  @ApiOperation({ summary: 'Change a line; a retired one is in use again' })
  change(
    @Param('id') id: string,
    @Body() { version, ...wish }: LineChangeBody,
    @Person() person: Account,
  ): Promise<LineView> {
    return this.lines.change(id, wish, version, person);
  }

  @Post(':id/retire')
  @NeedsRole('engineer')
  @HttpCode(200)
  @ApiOperation({ summary: 'Retire a line on which no unit is any more' })
  retire(
    @Param('id') id: string,
    @Body() { version }: VersionBody,
    @Person() person: Account,
  ): Promise<LineView> {
    return this.lines.retire(id, version, person);
  }
}
