import { Body, Controller, HttpCode, Param, Post } from '@nestjs/common';
import { ApiOperation, ApiProperty, ApiPropertyOptional, ApiTags } from '@nestjs/swagger';
import type { ReplacementView } from '@drive-keep/api';
import { IsInt, IsString, Max, MaxLength, Min, MinLength } from 'class-validator';
import type { Account } from '../access/account.entity.ts';
import { NeedsRole, Person } from '../access/session.guard.ts';
import { Maybe } from '../problems/maybe.ts';
import { VersionBody } from '../problems/same-version.ts';
import { MOST_SERIAL } from '../register/register-limits.ts';
import { ReplacementDoing } from './replacement-doing.service.ts';

class SwapBody extends VersionBody {
  @ApiProperty({ description: 'of the new unit, from its plate' })
  @IsInt()
  @Min(1)
  @Max(MOST_SERIAL)
  serial: number;
  @ApiProperty() @IsString() @MinLength(1) @MaxLength(20) firmware: string;
  @ApiPropertyOptional() @Maybe() @IsString() @MaxLength(60) line?: string;
  @ApiPropertyOptional() @Maybe() @IsInt() @Min(1) @Max(247) lineAddress?: number;
}

class BackBody extends VersionBody {
  @ApiProperty({ description: 'why, for the record' }) @IsString() @MinLength(3) @MaxLength(200) why: string;
}

@ApiTags('replacing')
@Controller('replacements/:id')
export class ReplacementDoingController {
  constructor(private readonly doing: ReplacementDoing) {}

  @Post('swap')
  @NeedsRole('technician')
  @HttpCode(200)
  @ApiOperation({ summary: 'The new unit sits there from now on, with the wires as the sheet moves them' })
  swap(
    @Param('id') id: string,
    @Body() { version, ...unit }: SwapBody,
    @Person() person: Account,
  ): Promise<ReplacementView> {
    return this.doing.swap(id, unit, version, person);
  }

  @Post('plan')
  @NeedsRole('technician')
  @HttpCode(200)
  @ApiOperation({ summary: 'Plan its reset and all that the sheet promises; nothing is written yet' })
  plan(
    @Param('id') id: string,
    @Body() { version }: VersionBody,
    @Person() person: Account,
  ): Promise<ReplacementView> {
    return this.doing.plan(id, version, person);
  }

  @Post('baseline-draft')
  @NeedsRole('technician')
  @HttpCode(200)
  @ApiOperation({ summary: 'Propose what was read back of the new unit as its baseline' })
  propose(
    @Param('id') id: string,
    @Body() { version }: VersionBody,
    @Person() person: Account,
  ): Promise<ReplacementView> {
    return this.doing.propose(id, version, person);
  }

  @Post('back')
  @NeedsRole('technician')
  @HttpCode(200)
  @ApiOperation({ summary: 'The old unit comes back, with its wires and its line' })
  back(
    @Param('id') id: string,
    @Body() { version, why }: BackBody,
    @Person() person: Account,
  ): Promise<ReplacementView> {
    return this.doing.back(id, why, version, person);
  }

  @Post('close')
  @NeedsRole('technician')
  @HttpCode(200)
  @ApiOperation({ summary: 'Everything is decided, done and signed: keep the sheet as it stands' })
  close(
    @Param('id') id: string,
    @Body() { version }: VersionBody,
    @Person() person: Account,
  ): Promise<ReplacementView> {
    return this.doing.close(id, version, person);
  }
}
