export * from './axis-marks.ts';
export * from './carry-over.ts';
export * from './effects.ts';
export * from './key-in.ts';
export * from './reset-plan.ts';
export * from './write-plan.ts';
export * from './unreachable-text.ts';
