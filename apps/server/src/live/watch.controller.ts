import { Controller, Param, Query, Req, Sse, type MessageEvent } from '@nestjs/common';
import { ApiOperation, ApiPropertyOptional, ApiTags } from '@nestjs/swagger';
import type { WatchEvent } from '@drive-keep/api';
import { findParameter } from '@drive-keep/core/dictionary';
import { watchableOf } from '@drive-keep/core/live';
import { IsString, MaxLength } from 'class-validator';
import type { Request } from 'express';
import { concatMap, map, type Observable } from 'rxjs';
import type { Account } from '../access/account.entity.ts';
import { Person, tokenOf } from '../access/session.guard.ts';
import { Streams } from '../access/streams.ts';
import { Dictionaries } from '../catalogue/dictionaries.service.ts';
import { noLine } from '../lines/lines.service.ts';
import { Maybe } from '../problems/maybe.ts';
import { Register } from '../register/register.service.ts';
import { Expectations } from './expectations.service.ts';
import { UnitWatch } from './unit-watch.service.ts';

/** Five times a second, where the line lets it. */
const EVERY_MS = 200;

class NowQuery {
  @ApiPropertyOptional({ description: 'codes of settings that are read, too, separated by commas' })
  @Maybe()
  @IsString()
  @MaxLength(400)
  also?: string;
}

@ApiTags('live')
@Controller('positions/:tag')
export class WatchController {
  constructor(
    private readonly register: Register,
    private readonly dictionaries: Dictionaries,
    private readonly watch: UnitWatch,
    private readonly expectations: Expectations,
    private readonly streams: Streams,
  ) {}

  @Sse('now')
  @ApiOperation({ summary: 'What the unit shows now, and what may be expected of it (server-sent events)' })
  async now(
    @Param('tag') tag: string,
    @Query() { also }: NowQuery,
    @Person() account: Account,
    @Req() request: Request,
  ): Promise<Observable<MessageEvent>> {
    const at = await this.register.unitAt(tag);
    const { line, lineAddress, serial, id, dictionaryId } = at.unit;
    if (!line) throw noLine(tag);
    const dictionary = await this.dictionaries.get(dictionaryId);
    const { signals, inputs, outputs, fault, history } = watchableOf(dictionary);
    const codes = [
      ...signals.map(({ parameter }) => parameter.code),
      ...[...inputs.values(), ...outputs.values()].map(({ code }) => code),
      ...[...(fault ? [fault] : []), ...history].map(({ code }) => code),
      ...(also ?? '').split(',').flatMap((code) => findParameter(dictionary, code)?.code ?? []),
    ];
    const expecting = await this.expectations.of(at);
    const unit = { tag, line, address: lineAddress ?? 0, serial, dictionary };
    const events = this.watch
      .watch(id, unit, { codes: [...new Set(codes)], everyMs: EVERY_MS, status: true })
      .pipe(
        concatMap((told): WatchEvent[] => {
          if (told.kind === 'silent') return [{ kind: 'silent', text: told.text }];
          const expected = expecting?.at(told);
          const sample: WatchEvent = { ...told, values: Object.fromEntries(told.values) };
          return expected ? [sample, { kind: 'expected', expected }] : [sample];
        }),
        map((data) => ({ type: 'now', data })),
      );
    return this.streams.forPerson(account, tokenOf(request), events);
  }
}
