export * from './program';
export * from './picture';
export * from './picture-key';
export * from './seen';
export * from './sound-runs';
export { clipGainAt } from './audible';
export * from './program-mix';
export * from './update';
export * from './enlargements';
