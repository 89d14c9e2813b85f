export * from './keyed';
