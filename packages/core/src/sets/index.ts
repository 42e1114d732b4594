export * from './default-set.ts';
export * from './parameter-set.ts';
