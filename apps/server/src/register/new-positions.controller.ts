import { Body, Controller, Get, Post } from '@nestjs/common';
import { ApiOperation, ApiProperty, ApiPropertyOptional, ApiTags } from '@nestjs/swagger';
import type { PositionDetailView } from '@drive-keep/api';
import { IsIn, IsInt, IsOptional, IsString, Matches, Max, MaxLength, Min, MinLength } from 'class-validator';
import { DataSource } from 'typeorm';
import type { Account } from '../access/account.entity.ts';
import { NeedsRole, Person } from '../access/session.guard.ts';
import { Line } from './line.entity.ts';
import { NewPositions } from './new-positions.service.ts';
import { Register } from './register.service.ts';

const CRITICALITIES = ['low', 'middle', 'high'] as const;
/** Serial numbers are 32 bits without a sign on every line. */
const MOST_SERIAL = 0xffff_ffff;

class NewPositionBody {
  @ApiProperty() @IsString() @MinLength(1) @MaxLength(60) area: string;
  @ApiProperty() @IsString() @MinLength(1) @MaxLength(60) machine: string;
  @ApiProperty({ example: 'KL2-RD-01' })
  @Matches(/^[A-Za-z0-9][A-Za-z0-9_-]{1,29}$/, {
    message: 'tag must be 2 to 30 letters, digits, "-" or "_"',
  })
  tag: string;
  @ApiProperty() @IsString() @MinLength(1) @MaxLength(120) duty: string;
  @ApiProperty({ enum: CRITICALITIES }) @IsIn(CRITICALITIES) criticality: 'low' | 'middle' | 'high';
  @ApiProperty() @IsString() @MaxLength(200) motor: string;
  @ApiProperty({ description: 'id of the dictionary' }) @IsString() @MaxLength(80) dictionary: string;
  @ApiProperty() @IsString() @MaxLength(60) rating: string;
  @ApiProperty() @IsString() @MaxLength(60) region: string;
  @ApiProperty() @IsInt() @Min(1) @Max(MOST_SERIAL) serial: number;
  @ApiProperty() @IsString() @MinLength(1) @MaxLength(20) firmware: string;
  @ApiPropertyOptional() @IsOptional() @IsString() @MaxLength(60) line?: string;
  @ApiPropertyOptional() @IsOptional() @IsInt() @Min(1) @Max(247) lineAddress?: number;
}

@ApiTags('register')
@Controller()
export class NewPositionsController {
  constructor(
    private readonly positions: NewPositions,
    private readonly register: Register,
    private readonly dataSource: DataSource,
  ) {}

  @Get('lines')
  @ApiOperation({ summary: 'The lines of the plant by name' })
  async lines(): Promise<readonly string[]> {
    const lines = await this.dataSource.getRepository(Line).find({ order: { name: 'ASC' } });
    return lines.map(({ name }) => name);
  }

  @Post('positions')
  @NeedsRole('engineer')
  @ApiOperation({ summary: 'Add a position with the unit that sits there' })
  async add(@Body() body: NewPositionBody, @Person() person: Account): Promise<PositionDetailView> {
    await this.positions.add(body, person);
    return this.register.detail(body.tag);
  }
}
