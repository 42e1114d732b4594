// One question to a worker that is made for it; without workers (as in tests) it is answered in place.

export function inWorker<Question, Answer>(
  make: () => Worker,
  inPlace: (question: Question) => Answer,
  question: Question,
): Promise<Answer> {
  if (typeof Worker === 'undefined') return Promise.resolve(inPlace(question));
  const worker = make();
  return new Promise<Answer>((resolve, reject) => {
    worker.onmessage = ({ data }: MessageEvent<Answer>) => resolve(data);
    worker.onerror = () => reject(new Error('the worker ended'));
    worker.postMessage(question);
  }).finally(() => worker.terminate());
}
