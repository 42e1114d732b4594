// One question, one answer.

import { behaviourDifference, type DifferenceInput } from './behaviour-difference.ts';

self.onmessage = ({ data }: MessageEvent<DifferenceInput>) => {
  self.postMessage(behaviourDifference(data));
};
