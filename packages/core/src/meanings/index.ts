export { likeness, type Likeness } from './alike.ts';
export { Bridge } from './bridge.ts';
export type { Impossible } from './conversions/conversion.ts';
export * from './plain.ts';
export type { PlainSet } from './plain-set.ts';
export { REFERENCE_TERMS, sayHow, sayNumber, sayPlain, sayUntold, type Term } from './say-plain.ts';
export * from './vocabulary.ts';
export { writePlain, type Met, type WrittenSet } from './write-plain.ts';
