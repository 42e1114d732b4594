// Expected failures are values: every reader in core answers with one of these two.

export type Result<T, F> =
  { readonly ok: true; readonly value: T } | { readonly ok: false; readonly fault: F };

/** What was asked for. */
export const ok = <T>(value: T): { readonly ok: true; readonly value: T } => ({ ok: true, value });
/** Why there is none. Faults are values: nothing is thrown for bad input. */
export const fail = <F>(fault: F): { readonly ok: false; readonly fault: F } => ({ ok: false, fault });

/** Ends a `switch` over a union: the compiler complains when a member was forgotten. */
export function assertNever(value: never): never {
  throw new Error(`unexpected member: ${JSON.stringify(value)}`);
}
