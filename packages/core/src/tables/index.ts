export * from './setting-table.ts';
export * from './table-row.ts';
