// Every kind of work that can be cut off.

import type { Killing, Work } from '../killing.ts';
import { axisLoad } from './axis-load.ts';
import { backup } from './backup.ts';
import { decisions } from './decisions.ts';
import { importFile } from './import-file.ts';
import { keyIn } from './key-in.ts';
import { reset } from './reset.ts';
import { round } from './round.ts';
import { writePlan } from './write-plan.ts';

export const KILLED_WORKS: Readonly<Record<string, (killing: Killing) => Work>> = {
  backup,
  round,
  'write plan': writePlan,
  reset,
  'load of axes': (killing) => axisLoad(killing, 'stay'),
  'load of axes that goes back': (killing) => axisLoad(killing, 'back'),
  import: importFile,
  'key-in sheet': keyIn,
  decisions,
};
