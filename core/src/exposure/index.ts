export * from './exposure';
export * from './steps';
export { LightMean } from './light';
