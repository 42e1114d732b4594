export * from './dictionary.ts';
export * from './findings.ts';
export * from './parameter.ts';
export * from './procedures.ts';
export { PARAMETER_COLUMNS } from './read-parameters.ts';
export * from './read-model.ts';
export * from './refusal-text.ts';
export * from './terminals.ts';
