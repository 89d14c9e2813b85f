export * from './frame-index';
export * from './frame-rate';
export * from './probe';
export * from './refused';
