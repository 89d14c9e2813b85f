export * from './mixdown';
export * from './varispeed';
export * from './peaks';
