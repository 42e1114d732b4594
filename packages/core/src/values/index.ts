export * from './decimal.ts';
export * from './display.ts';
export * from './form.ts';
export * from './reading.ts';
export * from './register-address.ts';
export * from './result.ts';
export * from './table.ts';
export * from './units.ts';
