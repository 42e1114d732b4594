export * from './scaling.ts';
export * from './ramps.ts';
export * from './step-response.ts';
export * from './trace.ts';
export * from './trace-table.ts';
