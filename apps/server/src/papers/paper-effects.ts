// What the differences of a paper do with the contacts, worked out in a process of its own.

import { fileURLToPath } from 'node:url';
import type { Changed, EffectLimits, Effects } from '@drive-keep/core/behaviour';
import type { Vocabulary } from '@drive-keep/core/meanings';
import { inOwnProcess, type Bounds } from '../file-content/own-process.ts';

const PROGRAM = fileURLToPath(new URL('../../workers/effects-process.mjs', import.meta.url));
const BOUNDS: Bounds = { memoryMb: 512, ms: 20_000 };
/** Fewer pairs of states than on a screen: others wait for their papers. */
const LIMITS: EffectLimits = { together: 5000, alone: 1000 };

/** Nothing where it has taken too long. */
export const effectsFor = (
  { entries, functions }: Vocabulary,
  changed: Changed,
): Promise<Effects | undefined> =>
  inOwnProcess<Effects>(PROGRAM, { entries, functions, changed, limits: LIMITS }, BOUNDS);

/** As a paper says it. */
export const effectsText = (effects: Effects | undefined): string =>
  effects
    ? [...effects.lines.map(({ text }) => text), effects.summary].join(' ')
    : 'Not worked out in the time that a paper has: the comparison on the screen says it.';
