export * from './film-check';
