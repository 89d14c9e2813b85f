export * from './exposure';
export * from './steps';
export { bright, dark, LightMean, lightTables, weighedLight } from './light';
export { PlanarMean } from './planar-mean';
