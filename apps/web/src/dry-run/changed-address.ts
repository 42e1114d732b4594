/** A query with one key set otherwise, or gone where it says nothing; the others stay. */
export function changed(before: URLSearchParams, key: string, value: string): URLSearchParams {
  const next = new URLSearchParams(before);
  if (value === '') next.delete(key);
  else next.set(key, value);
  return next;
}
