export * from './effects.ts';
export * from './write-plan.ts';
export * from './unreachable-text.ts';
