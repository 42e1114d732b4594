/** A file as a form, with the hash that a preview of it gave. */
export function fileForm(file: File | undefined, hash?: string): FormData {
  const form = new FormData();
  if (hash) form.set('hash', hash);
  if (file) form.set('file', file);
  return form;
}
