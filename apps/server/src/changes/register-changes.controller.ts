import { Body, Controller, Delete, HttpCode, Param, Patch, Post, Put } from '@nestjs/common';
import {
  ApiOperation,
  ApiProperty,
  ApiPropertyOptional,
  ApiTags,
  IntersectionType,
  PartialType,
} from '@nestjs/swagger';
import type { PositionDetailView, RegisterOutline } from '@drive-keep/api';
import {
  ArrayMaxSize,
  ArrayNotEmpty,
  IsArray,
  IsIn,
  IsInt,
  IsString,
  Matches,
  Max,
  MaxLength,
  Min,
  MinLength,
} from 'class-validator';
import { Maybe } from '../problems/maybe.ts';
import type { Account } from '../access/account.entity.ts';
import { VersionBody } from '../problems/same-version.ts';
import { May, NeedsRole, Person } from '../access/session.guard.ts';
import { RegisterChanges } from './register-changes.service.ts';
import { CRITICALITIES, MOST_SERIAL, TAG } from '../register/register-limits.ts';
import { Overview } from '../overview/overview.service.ts';
import { Register } from '../register/register.service.ts';

const MOST_AT_ONCE = 500;

class PositionBody {
  @ApiProperty() @IsString() @MinLength(1) @MaxLength(60) area: string;
  @ApiProperty() @IsString() @MinLength(1) @MaxLength(60) machine: string;
  @ApiProperty({ example: 'KL2-RD-01' })
  @Matches(TAG, { message: 'tag must be 2 to 30 letters, digits, "-" or "_"' })
  tag: string;
  @ApiProperty() @IsString() @MinLength(1) @MaxLength(120) duty: string;
  @ApiProperty({ enum: CRITICALITIES }) @IsIn(CRITICALITIES) criticality: 'low' | 'middle' | 'high';
  @ApiProperty() @IsString() @MaxLength(200) motor: string;
}

class UnitBody {
  @ApiProperty({ description: 'id of the dictionary' }) @IsString() @MaxLength(80) dictionary: string;
  @ApiProperty() @IsString() @MaxLength(60) rating: string;
  @ApiProperty() @IsString() @MaxLength(60) region: string;
  @ApiProperty() @IsInt() @Min(1) @Max(MOST_SERIAL) serial: number;
  @ApiProperty() @IsString() @MinLength(1) @MaxLength(20) firmware: string;
  @ApiPropertyOptional() @Maybe() @IsString() @MaxLength(60) line?: string;
  @ApiPropertyOptional() @Maybe() @IsInt() @Min(1) @Max(247) lineAddress?: number;
}

class ReasonBody {
  @ApiProperty({ description: 'why, for the record' })
  @IsString()
  @MinLength(1)
  @MaxLength(200)
  reason: string;
}

class NewPositionBody extends IntersectionType(PositionBody, UnitBody) {}
class PositionChangeBody extends IntersectionType(PartialType(PositionBody), VersionBody) {}
class UnitChangeBody extends IntersectionType(UnitBody, VersionBody) {}
class SwapBody extends IntersectionType(UnitBody, ReasonBody) {}

class RetireBody extends ReasonBody {
  @ApiProperty({ type: [String], description: 'tags of positions' })
  @IsArray()
  @ArrayNotEmpty()
  @ArrayMaxSize(MOST_AT_ONCE)
  @IsString({ each: true })
  @MaxLength(60, { each: true })
  positions: string[];
}

class RetirePlaceBody extends ReasonBody {
  @ApiProperty() @IsString() @MinLength(1) @MaxLength(60) area: string;

  @ApiPropertyOptional({ description: 'one machine of the area alone' })
  @Maybe()
  @IsString()
  @MaxLength(60)
  machine?: string;
}

class AreaBody {
  @ApiProperty() @IsString() @MinLength(1) @MaxLength(60) name: string;
}

class MachineBody {
  @ApiProperty() @IsString() @MinLength(1) @MaxLength(60) area: string;
  @ApiProperty() @IsString() @MinLength(1) @MaxLength(60) name: string;
}

@ApiTags('register')
@Controller()
export class RegisterChangesController {
  constructor(
    private readonly changes: RegisterChanges,
    private readonly register: Register,
    private readonly overview: Overview,
  ) {}

  @Post('positions')
  @May('register')
  @ApiOperation({ summary: 'Add a position with the unit that sits there' })
  async add(@Body() body: NewPositionBody, @Person() person: Account): Promise<PositionDetailView> {
    await this.changes.add(body, person);
    return this.overview.detail(body.tag);
  }

  @Patch('positions/:tag')
  @May('register')
  @ApiOperation({ summary: 'Change what is said of a position, or move it to another machine' })
  async change(
    @Param('tag') tag: string,
    @Body() { version, ...body }: PositionChangeBody,
    @Person() person: Account,
  ): Promise<PositionDetailView> {
    await this.changes.changePosition(tag, body, version, person);
    return this.overview.detail(body.tag ?? tag);
  }

  @Put('positions/:tag/unit')
  @May('register')
  @ApiOperation({ summary: 'Change what is said of the unit in place' })
  async changeUnit(
    @Param('tag') tag: string,
    @Body() { version, ...body }: UnitChangeBody,
    @Person() person: Account,
  ): Promise<PositionDetailView> {
    await this.changes.changeUnit(tag, body, version, person);
    return this.overview.detail(tag);
  }

  @Post('positions/:tag/swap')
  @NeedsRole('technician')
  @HttpCode(200)
  @ApiOperation({ summary: 'Another unit sits there from now on' })
  async swap(
    @Param('tag') tag: string,
    @Body() { reason, ...unit }: SwapBody,
    @Person() person: Account,
  ): Promise<PositionDetailView> {
    await this.changes.swap(tag, unit, reason, person);
    return this.overview.detail(tag);
  }

  @Post('register/retire')
  @May('register')
  @HttpCode(200)
  @ApiOperation({ summary: 'Retire positions; their history stays' })
  async retire(
    @Body() { positions, reason }: RetireBody,
    @Person() person: Account,
  ): Promise<{ readonly retired: readonly string[] }> {
    const tags = [...new Set(positions)];
    await this.changes.retire(tags, reason, person);
    return { retired: tags };
  }

  @Post('register/retire-place')
  @May('register')
  @HttpCode(200)
  @ApiOperation({ summary: 'Retire all positions of an area or a machine; their history stays' })
  async retirePlace(
    @Body() { reason, ...place }: RetirePlaceBody,
    @Person() person: Account,
  ): Promise<{ readonly retired: readonly string[] }> {
    return { retired: await this.changes.retirePlace(place, reason, person) };
  }

  @Delete('positions/:tag/retirement')
  @May('register')
  @ApiOperation({ summary: 'Bring a retired position back with the unit that it had' })
  async bringBack(@Param('tag') tag: string, @Person() person: Account): Promise<PositionDetailView> {
    await this.changes.bringBack(tag, person);
    return this.overview.detail(tag);
  }

  @Patch('areas/:name')
  @May('register')
  @ApiOperation({ summary: 'Rename an area' })
  async area(
    @Param('name') name: string,
    @Body() { name: to }: AreaBody,
    @Person() person: Account,
  ): Promise<RegisterOutline> {
    await this.changes.renameArea(name, to, person);
    return this.register.outline();
  }

  @Patch('areas/:area/machines/:name')
  @May('register')
  @ApiOperation({ summary: 'Rename a machine, or move it with its positions to another area' })
  async machine(
    @Param('area') area: string,
    @Param('name') machine: string,
    @Body() body: MachineBody,
    @Person() person: Account,
  ): Promise<RegisterOutline> {
    await this.changes.changeMachine({ area, machine }, { area: body.area, machine: body.name }, person);
    return this.register.outline();
  }
}
