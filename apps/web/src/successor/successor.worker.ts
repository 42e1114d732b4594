// One question, one answer.

import type { FromWorker } from '../dry-run/in-worker.ts';
import { successorAnswer, type SuccessorAnswer, type SuccessorInput } from './successor-answer.ts';

self.onmessage = ({ data }: MessageEvent<SuccessorInput>) => {
  const message: FromWorker<SuccessorAnswer> = { answer: successorAnswer(data) };
  self.postMessage(message);
};
