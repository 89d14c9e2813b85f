export * from './frame-index';
export * from './frame-rate';
export type { ReadBytes } from './isobmff/tables';
export * from './probe';
export * from './refused';
