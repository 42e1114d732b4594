import type { ValueTransformer } from 'typeorm';

/** `bigint` columns for numbers up to 32 bits without a sign: the driver gives them as text. */
export const wholeNumber: ValueTransformer = {
  to: (value: unknown) => value,
  from: (value: string | null) => (value === null ? null : Number(value)),
};
