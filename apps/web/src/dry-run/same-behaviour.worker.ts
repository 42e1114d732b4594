// One pair, one answer.

import { comparePair, type PairInput } from './same-behaviour.ts';

self.onmessage = ({ data }: MessageEvent<PairInput>) => {
  self.postMessage(comparePair(data));
};
