export * from './keyed';
export * from './key-tools';
