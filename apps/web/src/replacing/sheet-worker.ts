// The worker that works out sheets: kept from one answer to the next, as starting it anew takes longer than most answers. A
// question that is overtaken by another one is given up.

import { sheetAnswer, type SheetAnswer, type SheetQuestion } from './sheet-answer.ts';

let idle: Worker | undefined;
let atWork: { readonly worker: Worker; readonly giveUp: () => void } | undefined;

export function askForSheet(question: SheetQuestion): Promise<SheetAnswer> {
  if (typeof Worker === 'undefined') return Promise.resolve(sheetAnswer(question));
  atWork?.giveUp();
  const worker = idle ?? new Worker(new URL('./sheet.worker.ts', import.meta.url), { type: 'module' });
  idle = undefined;
  return new Promise<SheetAnswer>((resolve, reject) => {
    const end = () => {
      if (atWork?.worker === worker) atWork = undefined;
    };
    atWork = {
      worker,
      giveUp: () => {
        end();
        worker.terminate();
        reject(new Error('overtaken by a later answer'));
      },
    };
    worker.onmessage = ({ data }: MessageEvent<SheetAnswer>) => {
      end();
      idle = worker;
      resolve(data);
    };
    worker.onerror = () => {
      end();
      worker.terminate();
      reject(new Error('the worker ended'));
    };
    worker.postMessage(question);
  });
}
