export { annotatesOnly } from './annotation.ts';
export {
  BEHAVIOUR_RULES,
  FAULT_CLASSES,
  type Answer,
  type Behaviour,
  type BehaviourFact,
  type FaultClass,
  type RuleName,
} from './behaviour.ts';
export * from './dictionary.ts';
export * from './gaps.ts';
export * from './model-text.ts';
export * from './recount.ts';
export * from './register-search.ts';
export { changedBy, isTiedTo, type Effect, type FactChoice, type FixedValue } from './effect.ts';
export * from './fault-look-up.ts';
export * from './faults.ts';
export { readYaml, type FactReader, type ModelFile } from './fact-reader.ts';
export * from './parameter.ts';
export * from './procedures.ts';
export { FAULT_COLUMNS } from './read-faults.ts';
export { PARAMETER_COLUMNS } from './read-parameters.ts';
export * from './read-model.ts';
export * from './refusal.ts';
export * from './terminals.ts';
export * from './guess-purpose.ts';
export * from './look-up.ts';
export * from './version-difference.ts';
