// One question, one answer.

import {
  behaviourDifference,
  type BehaviourDifference,
  type DifferenceInput,
} from './behaviour-difference.ts';
import type { FromWorker } from './in-worker.ts';

self.onmessage = ({ data }: MessageEvent<DifferenceInput>) => {
  const message: FromWorker<BehaviourDifference> = { answer: behaviourDifference(data) };
  self.postMessage(message);
};
