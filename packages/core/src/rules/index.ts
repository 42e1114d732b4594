export { structuralCodes } from './structure.ts';
export * from './unit-rules.ts';
export * from './derating.ts';
