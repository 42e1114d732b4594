import { useSearchParams } from 'react-router';

export type ChangeAddress = (changes: Readonly<Record<string, string>>) => void;

/** What is typed lives in the address; an empty text takes its part out. */
export function useTypedAddress(): readonly [URLSearchParams, ChangeAddress] {
  const [params, setParams] = useSearchParams();
  const change: ChangeAddress = (changes) =>
    setParams(
      (before) => {
        const next = new URLSearchParams(before);
        for (const [name, value] of Object.entries(changes))
          if (value === '') next.delete(name);
          else next.set(name, value);
        return next;
      },
      { replace: true },
    );
  return [params, change];
}
