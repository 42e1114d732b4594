// What is compared, as the address bar holds it: `?a=baseline&b=newest&all=yes&noise=yes&find=ramp`;
// `b=live` is the unit itself, `three=yes` the baseline beside A and B.

import { useSearchParams } from 'react-router';

export interface ComparisonAddress {
  readonly a: string;
  readonly b: string;
  readonly all: boolean;
  readonly noise: boolean;
  readonly three: boolean;
  readonly find: string;
}

/** `a` is what stands on side A where the address says nothing. */
export function useComparisonAddress(
  a: string,
): [ComparisonAddress, (change: Partial<ComparisonAddress>) => void] {
  const usual: Readonly<Record<string, string>> = { a, b: 'newest' };
  const [params, setParams] = useSearchParams();
  const address: ComparisonAddress = {
    a: params.get('a') ?? a,
    b: params.get('b') ?? 'newest',
    all: params.get('all') === 'yes',
    noise: params.get('noise') === 'yes',
    three: params.get('three') === 'yes',
    find: params.get('find') ?? '',
  };
  const change = (changes: Partial<ComparisonAddress>) => {
    setParams(
      (before) => {
        const next = new URLSearchParams(before);
        for (const [key, value] of Object.entries(changes)) {
          const text = value === true ? 'yes' : value === false ? '' : value;
          if (text === '' || text === usual[key]) next.delete(key);
          else next.set(key, text);
        }
        return next;
      },
      { replace: true },
    );
  };
  return [address, change];
}

/** The query for the server. */
export function queryOf({ a, b, all, noise }: ComparisonAddress): string {
  const query = new URLSearchParams({ a, b });
  if (all) query.set('all', 'yes');
  if (noise) query.set('noise', 'yes');
  return query.toString();
}
