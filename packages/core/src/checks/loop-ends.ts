import { meaningOf } from '../values/index.ts';
import type { Ground } from './ground.ts';

const PERCENT = 100;

/** Actual value at both ends of its signal, in percent of the loop's range; all of it where the model does not scale it. */
export function loopEnds({ set }: Ground, number: string): { readonly low: number; readonly high: number } {
  const [low, high] = ['low', 'high'].map((end) => {
    const part = set.part(meaningOf(`analog.${number}.${end}`));
    if (!part.ok) return undefined;
    const { form } = part.value.parameter;
    return form.kind === 'number' && form.unit === '%' ? part.value.value : undefined;
  });
  return low === undefined || high === undefined ? { low: 0, high: PERCENT } : { low, high };
}
