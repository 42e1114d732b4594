import { Controller, Get, Param, Query, Res } from '@nestjs/common';
import { ApiOperation, ApiProperty, ApiPropertyOptional, ApiTags } from '@nestjs/swagger';
import type { EarlierSaying, ReplaceEstimate, ReplaceListModel } from '@drive-keep/api';
import { IsIn, IsString, MaxLength } from 'class-validator';
import type { Response } from 'express';
import { CrossReferences } from '../catalogue/cross-references.service.ts';
import { Maybe } from '../problems/maybe.ts';
import { OrderLists } from './order-lists.service.ts';
import { ReplacementViews } from './replacement-views.service.ts';
import { ReplaceLists } from './replace-lists.service.ts';

class SuccessorQuery {
  @ApiProperty({ description: 'id of the dictionary of the successor' })
  @IsString()
  @MaxLength(80)
  dictionary: string;
}

const FORMATS = ['csv', 'xlsx'] as const;
class OrderQuery extends SuccessorQuery {
  @ApiPropertyOptional({ enum: FORMATS }) @Maybe() @IsIn(FORMATS) as?: 'csv' | 'xlsx';
}

@ApiTags('replacing')
@Controller('replace-lists')
export class ReplaceListsController {
  constructor(
    private readonly lists: ReplaceLists,
    private readonly orders: OrderLists,
    private readonly references: CrossReferences,
    private readonly views: ReplacementViews,
  ) {}

  @Get()
  @ApiOperation({ summary: 'Models that have a successor, with every position where one still sits' })
  models(): Promise<readonly ReplaceListModel[]> {
    return this.lists.models();
  }

  @Get(':model/estimates')
  @ApiOperation({ summary: 'Which rating each position would take, whether it fits, and what is asked' })
  estimates(
    @Param('model') model: string,
    @Query() { dictionary }: SuccessorQuery,
  ): Promise<readonly ReplaceEstimate[]> {
    return this.lists.estimates(model, dictionary);
  }

  @Get(':model/answers/:fresh')
  @ApiOperation({ summary: 'What was answered in closed replacements of a pair of models' })
  async answers(
    @Param('model') model: string,
    @Param('fresh') fresh: string,
  ): Promise<readonly EarlierSaying[]> {
    const { text } = await this.references.of(model, fresh);
    return this.views.answers(model, fresh, text);
  }

  @Get(':model/order')
  @ApiOperation({ summary: 'What is to be ordered for the positions of a model, as CSV or XLSX' })
  async order(
    @Param('model') model: string,
    @Query() query: OrderQuery,
    @Res() response: Response,
  ): Promise<void> {
    const format = query.as ?? 'csv';
    response.attachment(`${model}_order.${format}`);
    if (format === 'csv') {
      response.type('text/csv; charset=utf-8').send(await this.orders.csv(model, query.dictionary));
      return;
    }
    response.send(Buffer.from(await this.orders.xlsx(model, query.dictionary)));
  }
}
