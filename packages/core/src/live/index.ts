export * from './expectation.ts';
export * from './signals.ts';
