// One question, one answer.

import type { Effects } from '@drive-keep/core/behaviour';
import { behaviourDifference, type DifferenceInput } from './behaviour-difference.ts';
import type { FromWorker } from '../ui/in-worker.ts';

self.onmessage = ({ data }: MessageEvent<DifferenceInput>) => {
  const message: FromWorker<Effects> = { answer: behaviourDifference(data) };
  self.postMessage(message);
};
