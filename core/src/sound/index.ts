export * from './mixdown';
export * from './run';
export * from './varispeed';
export * from './peaks';
export * from './settings';
export * from './levels';
export { Voices } from './stretch/voices';
export * from './mix/duck';
export * from './mix/limit';
