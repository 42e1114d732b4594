/** A file as a form, with the hash that a preview of it gave. */
export function fileForm(file: File | undefined, hash?: string): FormData {
  const form = new FormData();
  if (hash) form.set('hash', hash);
  if (file) form.set('file', file);
  return form;
}

/** How a file is to be read. */
export interface Reading {
  readonly latin?: boolean;
  /** A file of another version of the model is carried over. */
  readonly carry?: boolean;
}

/** The same as a query, with its question mark; empty where nothing is to be said. */
export function readingQuery({ latin, carry }: Reading): string {
  const query = new URLSearchParams({
    ...(latin ? { encoding: 'latin-1' } : {}),
    ...(carry ? { carry: 'yes' } : {}),
  }).toString();
  return query === '' ? '' : `?${query}`;
}
