import { useEffect, useState } from 'react';
import { inWorker } from '../ui/in-worker.ts';
import { figuresOf, type Figures, type FiguresInput } from './trace-figures.ts';

const make = () => new Worker(new URL('./trace-figures.worker.ts', import.meta.url), { type: 'module' });
const inPlace = ({ trace, settings }: FiguresInput): Figures => figuresOf(trace, settings);

/** Figures of a kept trace, from a worker; nothing while they are worked out, or where there are no samples yet. */
export function useFigures(input: FiguresInput | undefined): {
  readonly figures: Figures | undefined;
  readonly failed: boolean;
} {
  const [kept, setKept] = useState<{ of: FiguresInput | undefined; figures?: Figures; failed: boolean }>();
  useEffect(() => {
    if (!input) return undefined;
    let gone = false;
    inWorker(make, inPlace, input)
      .then((figures) => !gone && setKept({ of: input, figures, failed: false }))
      .catch(() => !gone && setKept({ of: input, failed: true }));
    return () => {
      gone = true;
    };
  }, [input]);
  return kept && kept.of === input
    ? { figures: kept.figures, failed: kept.failed }
    : { figures: undefined, failed: false };
}
