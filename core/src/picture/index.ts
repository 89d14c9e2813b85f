export * from './affine';
export * from './settings';
export * from './animated';
export * from './colours';
export * from './colours';
export * from './place';
export { toPrimariesOf625 } from './primaries';
export * from './shrink';
export * from './yuv';
