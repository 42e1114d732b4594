// One pair, one answer.

import type { FromWorker } from '../ui/in-worker.ts';
import { comparePair, type PairAnswer, type PairInput } from './same-behaviour.ts';

const post = (message: FromWorker<PairAnswer>) => self.postMessage(message);

self.onmessage = ({ data }: MessageEvent<PairInput>) => {
  post({ answer: comparePair(data, (progress) => post({ progress })) });
};
