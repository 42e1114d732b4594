export * from './any-drive.ts';
export { anyWish, wishedWiring } from './any-wiring.ts';
export * from './bench-drive.ts';
export * from './bench-wiring.ts';
export * from './rule-scenarios.ts';
export { rawOf, SEEDED } from './arbitraries.ts';
export { bridge } from './shipped-bridge.ts';
export * from './shipped-points.ts';
