import { DraftRunner, type DraftQuestion } from './draft-answer.ts';

const runner = new DraftRunner();

self.onmessage = ({ data }: MessageEvent<DraftQuestion>) => {
  self.postMessage(runner.answer(data));
};
