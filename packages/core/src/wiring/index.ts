export { checkWiring } from './check-wiring.ts';
export * from './device.ts';
export { Nets } from './nets.ts';
export { plainWiring, type PlainWiring } from './plain-wiring.ts';
export * from './wiring.ts';
export * from './wire-maker.ts';
export * from './wiring-table.ts';
