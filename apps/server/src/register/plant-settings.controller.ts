import { Body, Controller, Get, HttpCode, Post, Put } from '@nestjs/common';
import { ApiOperation, ApiProperty, ApiTags, IntersectionType } from '@nestjs/swagger';
import type { PlantView } from '@drive-keep/api';
import { Type } from 'class-transformer';
import {
  IsBoolean,
  IsIn,
  IsInt,
  IsObject,
  IsString,
  Matches,
  Max,
  MaxLength,
  Min,
  ValidateIf,
  ValidateNested,
} from 'class-validator';
import type { Account } from '../access/account.entity.ts';
import { NeedsRole, Person } from '../access/session.guard.ts';
import { VersionBody } from '../problems/same-version.ts';
import { PlantSettings } from './plant-settings.service.ts';

const GIVEN_TO = ['technician', 'engineer'] as const;
/** Where nothing is a value of its own. */
const OrNothing = () => ValidateIf((_, value) => value !== null);

class MayBody {
  @ApiProperty({ enum: GIVEN_TO }) @IsIn(GIVEN_TO) write: (typeof GIVEN_TO)[number];
  @ApiProperty({ enum: GIVEN_TO }) @IsIn(GIVEN_TO) register: (typeof GIVEN_TO)[number];
}

class SettingsBody {
  @ApiProperty({ example: 'Fennimoor Tileworks' })
  @Matches(/^\S(.{0,78}\S)?$/u, { message: 'name must be 1 to 80 characters without a space at its ends' })
  name: string;
  @ApiProperty() @IsBoolean() secondSignature: boolean;
  @ApiProperty({ example: '02:00' })
  @Matches(/^([01]\d|2[0-3]):[0-5]\d$/, { message: 'nightlyAt must be a time of day such as 02:00' })
  nightlyAt: string;
  @ApiProperty({ example: 36 }) @IsInt() @Min(1) @Max(10_000) overdueHours: number;
  @ApiProperty({ nullable: true, type: Number, example: 400 })
  @OrNothing()
  @IsInt()
  @Min(100)
  @Max(1000)
  mainsVoltage: number | null;
  @ApiProperty({ nullable: true, enum: [50, 60] }) @OrNothing() @IsIn([50, 60]) mainsFrequency:
    50 | 60 | null;
  @ApiProperty({ example: 'Europe/Paris' }) @IsString() @MaxLength(60) timeZone: string;
  @ApiProperty({ enum: ['point', 'comma'] }) @IsIn(['point', 'comma']) decimalMark: 'point' | 'comma';
  @ApiProperty({ example: 'https://drives.plant.local:8420' })
  @MaxLength(120)
  @Matches(/^$|^https?:\/\/[a-z0-9.-]+(:\d{1,5})?$/i, {
    message: 'address must be such as https://drives.plant.local:8420, without anything behind it',
  })
  address: string;
  @ApiProperty({ type: MayBody }) @IsObject() @ValidateNested() @Type(() => MayBody) may: MayBody;
}

class SettingsChangeBody extends IntersectionType(SettingsBody, VersionBody) {}

@ApiTags('plant')
@Controller('plant')
export class PlantSettingsController {
  constructor(private readonly settings: PlantSettings) {}

  @Get()
  @ApiOperation({ summary: 'What holds for the whole plant' })
  view(): Promise<PlantView> {
    return this.settings.view();
  }

  @Put()
  @NeedsRole('engineer')
  @ApiOperation({ summary: 'Change what holds for the whole plant' })
  change(
    @Body() { version, may, ...wish }: SettingsChangeBody,
    @Person() person: Account,
  ): Promise<PlantView> {
    return this.settings.change({ ...wish, may: { ...may } }, version, person);
  }

  @Post('no-copy')
  @NeedsRole('engineer')
  @HttpCode(200)
  @ApiOperation({ summary: 'Say that a restored copy is the plant from now on: it talks to units again' })
  beTheOne(@Person() person: Account): Promise<PlantView> {
    return this.settings.beTheOne(person);
  }
}
