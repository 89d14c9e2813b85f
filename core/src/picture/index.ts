export * from './affine';
export * from './settings';
export * from './animated';
export * from './colours';
export * from './place';
export * from './plane-map';
export { toPrimariesOf625 } from './primaries';
export * from './shrink';
export * from './yuv';
