export * from './vocabulary.ts';
