export * from './exposure';
export * from './steps';
export * from './lit';
export * from './light-mix';
export { bright, dark, LightMean, lightOf, lightsOf, valueOf } from './light';
export { PlanarMean } from './planar-mean';
