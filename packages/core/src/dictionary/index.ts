export * from './dictionary.ts';
export * from './findings.ts';
export * from './parameter.ts';
export { PARAMETER_COLUMNS } from './read-parameters.ts';
export * from './read-model.ts';
export * from './refusal-text.ts';
