import { performance } from 'node:perf_hooks';

/** Median of the times of single runs in ms, after a warm-up. */
export function medianMs(work, runs = 200) {
  for (let run = 0; run < Math.min(50, runs); run += 1) work(run);
  const times = Array.from({ length: runs }, (_, run) => {
    const began = performance.now();
    work(run);
    return performance.now() - began;
  });
  return median(times);
}

export function median(numbers) {
  const sorted = [...numbers].sort((a, b) => a - b);
  return sorted[Math.floor(sorted.length / 2)];
}

export const showMs = (ms) => (ms < 1 ? `${ms.toFixed(3)} ms` : `${ms.toFixed(1)} ms`);
