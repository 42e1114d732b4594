// One question to a worker that is made for it; without workers (as in tests) it is answered in place. What takes long is told
// on the way.

/** What a worker posts. */
export type FromWorker<Answer> = { readonly progress: number } | { readonly answer: Answer };

export function inWorker<Question, Answer>(
  make: () => Worker,
  inPlace: (question: Question) => Answer,
  question: Question,
  onProgress?: (progress: number) => void,
): Promise<Answer> {
  if (typeof Worker === 'undefined') return Promise.resolve(inPlace(question));
  const worker = make();
  return new Promise<Answer>((resolve, reject) => {
    worker.onmessage = ({ data }: MessageEvent<FromWorker<Answer>>) =>
      'answer' in data ? resolve(data.answer) : onProgress?.(data.progress);
    worker.onerror = () => reject(new Error('the worker ended'));
    worker.postMessage(question);
  }).finally(() => worker.terminate());
}
