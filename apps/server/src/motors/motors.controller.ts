import { Body, Controller, Delete, Get, HttpCode, Param, Post, Put } from '@nestjs/common';
import { ApiOperation, ApiProperty, ApiPropertyOptional, ApiTags, IntersectionType } from '@nestjs/swagger';
import type { MotorArrival, MotorView } from '@drive-keep/api';
import type { PlateText } from '@drive-keep/core/motor';
import { Type } from 'class-transformer';
import {
  ArrayMaxSize,
  IsArray,
  IsObject,
  IsOptional,
  IsString,
  IsUUID,
  Matches,
  MaxLength,
  MinLength,
  ValidateNested,
} from 'class-validator';
import { Maybe } from '../problems/maybe.ts';
import type { Account } from '../access/account.entity.ts';
import { VersionBody } from '../problems/same-version.ts';
import { NeedsRole, Person } from '../access/session.guard.ts';
import { MotorArrivals } from './motor-arrivals.service.ts';
import { MotorLibrary } from './motors.service.ts';

const MOST_RATINGS = 8;

class PlateTextBody implements PlateText {
  @ApiProperty({
    type: [Object],
    description: 'one for each supply: voltage, connection, power, current …, as text',
  })
  @IsArray()
  @ArrayMaxSize(MOST_RATINGS)
  @IsObject({ each: true })
  ratings: Record<string, string>[];
  @ApiProperty({ type: Object, description: 'poles, inertia, resistance …, as text' })
  @IsObject()
  motor: Record<string, string>;
  @ApiProperty({ type: Object, description: 'releaseDelay, setDelay, coilCurrent, coilVoltage, as text' })
  @IsObject()
  brake: Record<string, string>;
}

class MotorBody {
  @ApiProperty() @IsString() @MinLength(1) @MaxLength(80) name: string;
  @ApiProperty({ type: PlateTextBody })
  @IsObject()
  @ValidateNested()
  @Type(() => PlateTextBody)
  plate: PlateTextBody;
  @ApiPropertyOptional() @Maybe() @IsUUID() startedFrom?: string;
}

class MotorChangeBody extends IntersectionType(MotorBody, VersionBody) {}

class NameBody {
  @ApiProperty() @IsString() @MinLength(1) @MaxLength(80) name: string;
}

class LeaveBody {
  @ApiProperty() @Matches(/^[0-9a-f]{32}$/) fingerprint: string;
}

class AssignBody {
  @ApiPropertyOptional({ description: 'nothing: none of the library', nullable: true, type: String })
  @IsOptional()
  @IsUUID()
  motor: string | null;
}

@ApiTags('motors')
@Controller()
export class MotorsController {
  constructor(
    private readonly library: MotorLibrary,
    private readonly arrivals: MotorArrivals,
  ) {}

  @Get('motors')
  @ApiOperation({ summary: 'The motor library' })
  all(): Promise<readonly MotorView[]> {
    return this.library.all();
  }

  @Post('motors')
  @NeedsRole('technician')
  @ApiOperation({ summary: 'Add a motor under a name of its own' })
  async add(@Body() body: MotorBody, @Person() person: Account): Promise<{ readonly id: string }> {
    return { id: await this.library.add(body, person) };
  }

  @Put('motors/:id')
  @NeedsRole('engineer')
  @ApiOperation({ summary: 'Change what is said of a motor' })
  async change(
    @Param('id') id: string,
    @Body() { version, ...body }: MotorChangeBody,
    @Person() person: Account,
  ): Promise<readonly MotorView[]> {
    await this.library.change(id, body, version, person);
    return this.library.all();
  }

  @Delete('motors/:id')
  @NeedsRole('engineer')
  @ApiOperation({ summary: 'Remove a motor that no position has' })
  async remove(@Param('id') id: string, @Person() person: Account): Promise<readonly MotorView[]> {
    await this.library.remove(id, person);
    return this.library.all();
  }

  @Put('positions/:tag/motor')
  @NeedsRole('technician')
  @ApiOperation({ summary: 'Which motor of the library a position has' })
  async assign(
    @Param('tag') tag: string,
    @Body() { motor }: AssignBody,
    @Person() person: Account,
  ): Promise<readonly MotorView[]> {
    await this.library.assign(tag, motor ?? null, person);
    return this.library.all();
  }

  @Get('motor-arrivals')
  @ApiOperation({ summary: 'Motors that backups tell of and that the library does not know like this' })
  arrived(): Promise<readonly MotorArrival[]> {
    return this.arrivals.all();
  }

  @Post('motor-arrivals/:tag')
  @NeedsRole('technician')
  @ApiOperation({ summary: 'Take the motor of a backup into the library, under a name of its own' })
  async takeIn(
    @Param('tag') tag: string,
    @Body() { name }: NameBody,
    @Person() person: Account,
  ): Promise<{ readonly id: string }> {
    return { id: await this.arrivals.takeIn(tag, name, person) };
  }

  @Post('motor-arrivals/:tag/leave')
  @NeedsRole('technician')
  @HttpCode(200)
  @ApiOperation({ summary: 'Leave it as it is, until the set tells something else' })
  async leave(
    @Param('tag') tag: string,
    @Body() { fingerprint }: LeaveBody,
    @Person() person: Account,
  ): Promise<readonly MotorArrival[]> {
    await this.arrivals.leave(tag, fingerprint, person);
    return this.arrivals.all();
  }
}
