export * from './affine';
export * from './settings';
export * from './animated';
export * from './place';
export * from './shrink';
export * from './yuv';
