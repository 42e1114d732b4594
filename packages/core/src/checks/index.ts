export { CHECKS } from './all/index.ts';
export * from './check.ts';
export * from './ground.ts';
export { motorInputOf } from './position-motor.ts';
export * from './position-signals.ts';
export { runChecks, type Report, type UntoldCheck } from './run.ts';
