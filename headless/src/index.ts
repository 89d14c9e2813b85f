export * from './browser';
export * from './page';
export * from './settled';
