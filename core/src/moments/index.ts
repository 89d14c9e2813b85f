export * from './motion';
export * from './motion-file';
export * from './find-moments';
