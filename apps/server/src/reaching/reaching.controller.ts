import { X509Certificate } from 'node:crypto';
import { Controller, Get, Inject, Res } from '@nestjs/common';
import { ApiOperation, ApiTags } from '@nestjs/swagger';
import type { AuthorityView } from '@drive-keep/api';
import type { Response } from 'express';
import { Open } from '../access/session.guard.ts';
import { notFound } from '../problems/problem.ts';

export const AUTHORITY = Symbol('authority');

@ApiTags('reaching')
@Controller('authority')
export class ReachingController {
  constructor(@Inject(AUTHORITY) private readonly authority: { readonly pem: string | null }) {}

  @Open()
  @Get()
  @ApiOperation({ summary: 'The local authority whose certificate phones are told to trust; it is public' })
  view(): AuthorityView {
    if (this.authority.pem === null) return { fingerprint: null, validTo: null };
    const { fingerprint256, validTo } = new X509Certificate(this.authority.pem);
    return { fingerprint: fingerprint256, validTo: new Date(validTo).toISOString() };
  }

  @Open()
  @Get('certificate')
  @ApiOperation({ summary: 'Its certificate as a file that phones take in' })
  certificate(@Res() response: Response): void {
    if (this.authority.pem === null) throw notFound('A local authority of this installation');
    response.type('application/x-x509-ca-cert').attachment('drive-keep.crt').send(this.authority.pem);
  }
}
