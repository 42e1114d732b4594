export * from './expectation.ts';
export * from './signals.ts';
export * from './identification.ts';
