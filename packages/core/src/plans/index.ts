export * from './axis-marks.ts';
export * from './carry-over.ts';
export * from './cut-off.ts';
export * from './key-in.ts';
export * from './reset-plan.ts';
export * from './write-plan.ts';
export * from './unreachable.ts';
