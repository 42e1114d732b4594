// One question after the other, each with its answer.

import { sheetAnswer, type SheetQuestion } from './sheet-answer.ts';

self.onmessage = ({ data }: MessageEvent<SheetQuestion>) => {
  self.postMessage(sheetAnswer(data));
};
