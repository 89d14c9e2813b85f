export * from './exposure';
export { LightMean } from './light';
