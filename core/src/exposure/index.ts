export * from './exposure';
export * from './steps';
export { bright, dark, LightMean, lightsOf } from './light';
export { PlanarMean } from './planar-mean';
