export { CHECK_WORDS } from './check-texts.ts';
export * from './finding.ts';
export { describe, type Words } from './texts.ts';
export * from './table-fault.ts';
export * from './value-said.ts';
