export * from './counts-alike.ts';
export * from './difference.ts';
export * from './two-sets.ts';
export * from './many-sets.ts';
export * from './three-sets.ts';
export * from './across-models.ts';
