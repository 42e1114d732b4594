import type { ReplacementSheet } from '@drive-keep/core/replace';

/** The line of the sheet in which a setting of the successor is decided. */
export const lineOf = ({ lines }: ReplacementSheet, code: string) =>
  lines.find(({ now }) => now.some((each) => each.code === code)) ??
  lines.find(({ id }) => id === `new ${code}`);
