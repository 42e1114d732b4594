export * from './difference.ts';
export * from './two-sets.ts';
