import { Body, Controller, HttpCode, Post } from '@nestjs/common';
import { ApiOperation, ApiProperty, ApiTags } from '@nestjs/swagger';
import type { RegisterSearchView, RegistersView } from '@drive-keep/api';
import { INPUT_REGISTERS } from '@drive-keep/core/values';
import { Type } from 'class-transformer';
import {
  ArrayMaxSize,
  ArrayMinSize,
  IsArray,
  IsIn,
  IsInt,
  Matches,
  Max,
  MaxLength,
  Min,
  ValidateNested,
} from 'class-validator';
import { NeedsRole } from '../access/session.guard.ts';
import { DraftReading } from './draft-reading.service.ts';
import { AtUnitBody } from './model-drafts.controller.ts';

const AREAS = ['holding', 'input'] as const;
const MOST_AT_ONCE = 64;
const MOST_SHOWN = 8;

class RegistersBody extends AtUnitBody {
  @ApiProperty({ enum: AREAS }) @IsIn(AREAS) area: (typeof AREAS)[number];
  @ApiProperty({ description: 'protocol address, counted from 0' })
  @IsInt()
  @Min(0)
  @Max(0xffff)
  from: number;
  @ApiProperty() @IsInt() @Min(1) @Max(MOST_AT_ONCE) count: number;
}

class ShownBody {
  @ApiProperty({ description: 'as the manual gives it', example: 40_101 })
  @IsInt()
  @Min(0)
  @Max(500_000)
  number: number;
  @ApiProperty({ description: 'as the keypad shows it, without its unit', example: '50.00' })
  @MaxLength(18)
  @Matches(/^\s*[-−+]?\d{1,10}([.,]\d{1,6})?\s*$/, {
    message: 'text must be a number as the keypad shows it, such as 50.00',
  })
  text: string;
}

class SearchBody extends AtUnitBody {
  @ApiProperty({ type: [ShownBody] })
  @IsArray()
  @ArrayMinSize(1)
  @ArrayMaxSize(MOST_SHOWN)
  @ValidateNested({ each: true })
  @Type(() => ShownBody)
  shown: ShownBody[];
}

@ApiTags('models')
@Controller('registers')
export class RegistersController {
  constructor(private readonly reading: DraftReading) {}

  @Post('read')
  @NeedsRole('technician')
  @HttpCode(200)
  @ApiOperation({ summary: 'Registers of a unit as they are at this moment; nothing is written' })
  read(@Body() { area, from, count, ...at }: RegistersBody): Promise<RegistersView> {
    const first = (area === 'input' ? INPUT_REGISTERS : 0) + from;
    const most = Math.min(count, 0x1_0000 - from);
    return this.reading.registers(
      at,
      Array.from({ length: most }, (_, place) => first + place),
    );
  }

  @Post('search')
  @NeedsRole('technician')
  @HttpCode(200)
  @ApiOperation({ summary: 'How a maker counts its registers, by what a keypad shows; nothing is written' })
  search(@Body() { shown, ...at }: SearchBody): Promise<RegisterSearchView> {
    return this.reading.search(at, shown);
  }
}
