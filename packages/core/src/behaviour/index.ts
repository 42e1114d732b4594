export { machineOf, type Machine } from './machine.ts';
export { mendOf, type Mend } from './mend.ts';
export * from './outcome.ts';
export * from './same-behaviour.ts';
export * from './say-difference.ts';
export * from './say-outcome.ts';
export * from './state.ts';
export { begin, step, type Stepped } from './step.ts';
export * from './trace.ts';
