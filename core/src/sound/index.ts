export * from './mixdown';
export * from './varispeed';
