export * from './schema/rate';
export * from './schema/timing';
export * from './schema/media';
export * from './schema/project';
export * from './schema/api';
export * from './problem';
export * from './validate';
export * from './migrate';
