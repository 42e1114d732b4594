export * from './plate.ts';
export * from './plate-from-set.ts';
export * from './plate-clash.ts';
export * from './read-plate.ts';
export * from './calculate.ts';
export * from './motor-sheet.ts';
