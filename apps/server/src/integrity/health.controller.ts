import { Controller, Get } from '@nestjs/common';
import { ApiOperation, ApiTags } from '@nestjs/swagger';
import { DataSource } from 'typeorm';
import { Open } from '../access/session.guard.ts';

@ApiTags('health')
@Controller('health')
export class HealthController {
  constructor(private readonly dataSource: DataSource) {}

  @Open()
  @Get()
  @ApiOperation({ summary: 'Whether the server and its database answer' })
  async health(): Promise<{ state: 'well' }> {
    await this.dataSource.query('select 1');
    return { state: 'well' };
  }
}
