import { Body, Controller, Get, HttpCode, Param, ParseUUIDPipe, Post, Put } from '@nestjs/common';
import { ApiOperation, ApiProperty, ApiPropertyOptional, ApiTags, IntersectionType } from '@nestjs/swagger';
import type { PositionSiteView, SiteView } from '@drive-keep/api';
import {
  IsIn,
  IsInt,
  IsISO8601,
  IsNumber,
  IsString,
  IsUUID,
  Matches,
  Max,
  MaxLength,
  Min,
  ValidateIf,
} from 'class-validator';
import type { Account } from '../access/account.entity.ts';
import { May, NeedsRole, Person } from '../access/session.guard.ts';
import { Maybe } from '../problems/maybe.ts';
import { VersionBody } from '../problems/same-version.ts';
import { Site } from './site.service.ts';

const Name = () =>
  Matches(/^\S(.{0,58}\S)?$/u, { message: 'name must be 1 to 60 characters without a space at its ends' });
const OrNothing = () => ValidateIf((_, value) => value !== null);

class SupplyBody {
  @ApiProperty({ example: 'Kiln supply' }) @Name() name: string;
  @ApiProperty({ example: 400 }) @IsInt() @Min(100) @Max(1000) nominalVolts: number;
  @ApiProperty({ enum: [50, 60] }) @IsIn([50, 60]) frequency: 50 | 60;
  @ApiPropertyOptional({
    nullable: true,
    type: Number,
    example: 300,
    description:
      'at which a residual-current device trips, in mA; 0 where there is none, nothing where nobody said',
  })
  @Maybe()
  @OrNothing()
  @IsInt()
  @Min(0)
  @Max(30_000)
  residualMilliamps?: number | null;
}
class SupplyChangeBody extends IntersectionType(SupplyBody, VersionBody) {}

class MeasurementBody {
  @ApiProperty({ example: 427, description: 'between two phases, in V' })
  @IsNumber({ maxDecimalPlaces: 1, allowNaN: false, allowInfinity: false })
  @Min(50)
  @Max(1500)
  volts: number;
  @ApiPropertyOptional({ description: 'when it was taken; now, where it is not said' })
  @Maybe()
  @IsISO8601({ strict: true, strictSeparator: true })
  @MaxLength(40)
  at?: string;
  @ApiPropertyOptional() @Maybe() @IsString() @MaxLength(200) note?: string;
}

class CabinetBody {
  @ApiProperty({ example: 'Kiln 1, cabinet 2' }) @Name() name: string;
  @ApiProperty({
    nullable: true,
    type: Number,
    example: 45,
    description: 'the warmest that is met there, in °C',
  })
  @OrNothing()
  @IsInt()
  @Min(-20)
  @Max(80)
  ambient: number | null;
}
class CabinetChangeBody extends IntersectionType(CabinetBody, VersionBody) {}

class PlacedBody {
  @ApiProperty({ nullable: true, type: String }) @OrNothing() @IsUUID() supply: string | null;
  @ApiProperty({ nullable: true, type: String }) @OrNothing() @IsUUID() cabinet: string | null;
}

@ApiTags('site')
@Controller()
export class SiteController {
  constructor(private readonly site: Site) {}

  @Get('site')
  @ApiOperation({ summary: 'Supplies with their measured voltages, and cabinets' })
  view(): Promise<SiteView> {
    return this.site.view();
  }

  @Post('site/supplies')
  @May('register')
  @ApiOperation({ summary: 'Add a supply' })
  addSupply(@Body() body: SupplyBody, @Person() person: Account): Promise<SiteView> {
    return this.site.addSupply(body, person);
  }

  @Put('site/supplies/:id')
  @May('register')
  @ApiOperation({ summary: 'Change a supply' })
  changeSupply(
    @Param('id', ParseUUIDPipe) id: string,
    @Body() { version, ...wish }: SupplyChangeBody,
    @Person() person: Account,
  ): Promise<SiteView> {
    return this.site.changeSupply(id, wish, version, person);
  }

  @Post('site/supplies/:id/measurements')
  @NeedsRole('technician')
  @HttpCode(200)
  @ApiOperation({ summary: 'Keep a voltage that was measured at a supply' })
  measure(
    @Param('id', ParseUUIDPipe) id: string,
    @Body() body: MeasurementBody,
    @Person() person: Account,
  ): Promise<SiteView> {
    return this.site.measure(id, body, person);
  }

  @Post('site/cabinets')
  @May('register')
  @ApiOperation({ summary: 'Add a cabinet' })
  addCabinet(@Body() body: CabinetBody, @Person() person: Account): Promise<SiteView> {
    return this.site.addCabinet(body, person);
  }

  @Put('site/cabinets/:id')
  @May('register')
  @ApiOperation({ summary: 'Change a cabinet' })
  changeCabinet(
    @Param('id', ParseUUIDPipe) id: string,
    @Body() { version, ...wish }: CabinetChangeBody,
    @Person() person: Account,
  ): Promise<SiteView> {
    return this.site.changeCabinet(id, wish, version, person);
  }

  @Get('positions/:tag/site')
  @ApiOperation({ summary: 'The supply and the cabinet of a position' })
  of(@Param('tag') tag: string): Promise<PositionSiteView> {
    return this.site.of(tag);
  }

  @Put('positions/:tag/site')
  @May('register')
  @ApiOperation({ summary: 'Say to which supply and cabinet a position belongs' })
  place(
    @Param('tag') tag: string,
    @Body() { supply, cabinet }: PlacedBody,
    @Person() person: Account,
  ): Promise<PositionSiteView> {
    return this.site.place(tag, supply, cabinet, person);
  }
}
