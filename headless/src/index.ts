export * from './browser';
export * from './page';
