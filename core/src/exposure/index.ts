export * from './exposure';
export * from './steps';
export * from './lit';
export * from './light-mix';
export { bright, dark, lightOf, lightsOf } from './light';
export { PlanarMean } from './planar-mean';
export { litValues, valueWeight } from './lightest';
