export * from './varispeed';
