export * from './access.ts';
export * from './comparison.ts';
export * from './files.ts';
export * from './jobs.ts';
export * from './logbook.ts';
export * from './problem.ts';
export * from './register.ts';
export * from './writing.ts';
