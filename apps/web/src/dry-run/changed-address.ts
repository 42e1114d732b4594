/** A query with one key set otherwise; the others stay. */
export function changed(before: URLSearchParams, key: string, value: string): URLSearchParams {
  const next = new URLSearchParams(before);
  next.set(key, value);
  return next;
}
