// One question, one answer.

import type { FromWorker } from '../ui/in-worker.ts';
import { figuresOf, type Figures, type FiguresInput } from './trace-figures.ts';

self.onmessage = ({ data }: MessageEvent<FiguresInput>) => {
  const message: FromWorker<Figures> = { answer: figuresOf(data.trace, data.settings) };
  self.postMessage(message);
};
