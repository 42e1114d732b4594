export * from './read-set.ts';
export * from './set-csv.ts';
export * from './set-file.ts';
export * from './set-json.ts';
export * from './set-finding-text.ts';
