// The whole sheet of a replacement with its words, worked out in a process of its own.

import { fileURLToPath } from 'node:url';
import { Injectable } from '@nestjs/common';
import type { ReplacementSheet } from '@drive-keep/core/replace';
import { inOwnProcess, type Bounds } from '../file-content/own-process.ts';
import { ProblemException } from '../problems/problem.ts';
import { ReplacementGround } from './replacement-ground.service.ts';
import type { Replacement } from './replacement.entity.ts';

const PROGRAM = fileURLToPath(new URL('../../workers/replacement-process.mjs', import.meta.url));
const BOUNDS: Bounds = { memoryMb: 512, ms: 60_000 };

@Injectable()
export class ReplacementSheets {
  constructor(private readonly ground: ReplacementGround) {}

  async of(replacement: Replacement): Promise<ReplacementSheet> {
    const { input, old, fresh, source, wiring } = await this.ground.of(replacement);
    const { entries, functions } = input.words;
    const sayings = await this.ground.sayings(replacement.id);
    const task = {
      ...{ entries, functions, old, fresh, readings: source.readings, wiring: wiring.wiring },
      ...{
        outfit: input.old.outfit,
        onLine: input.old.onLine,
        ambient: input.old.ambient ?? null,
        region: input.region,
        rating: input.rating,
      },
      cross: replacement.crossContent,
      sayings: sayings.map(({ part, line, value }) => ({ part, line, value })),
    };
    const sheet = await inOwnProcess<ReplacementSheet>(PROGRAM, task, BOUNDS);
    if (sheet) return sheet;
    throw new ProblemException(
      503,
      'sheet-takes-too-long',
      'The sheet could not be worked out in a minute. Try again when the server has less to do. Nothing was changed.',
    );
  }
}
