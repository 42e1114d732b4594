// Which positions are shown and how, as the address bar holds it: `?state=drift&area=Kiln 1&as=table&sort=differences`.

import { useSearchParams } from 'react-router';

export const FILTERS = ['area', 'model', 'criticality', 'state', 'findings', 'find'] as const;
export type Filter = (typeof FILTERS)[number];
export type RegisterParameter = Filter | 'as' | 'sort' | 'backwards';

export interface RegisterAddress {
  readonly value: (name: RegisterParameter) => string;
  readonly change: (changes: Partial<Record<RegisterParameter, string>>) => void;
  /** The query for the server. */
  readonly query: string;
  readonly filtered: boolean;
}

export function useRegisterAddress(): RegisterAddress {
  const [params, setParams] = useSearchParams();
  const query = new URLSearchParams();
  for (const name of [...FILTERS, 'sort', 'backwards']) {
    const value = params.get(name);
    if (value) query.set(name, value);
  }
  return {
    value: (name) => params.get(name) ?? '',
    change: (changes) =>
      setParams(
        (before) => {
          const next = new URLSearchParams(before);
          for (const [name, value] of Object.entries(changes)) {
            if (value === '') next.delete(name);
            else next.set(name, value);
          }
          return next;
        },
        { replace: true },
      ),
    query: query.toString(),
    filtered: FILTERS.some((name) => params.get(name)),
  };
}
