export * from './frame-grid';
export * from './frame-index';
export * from './frame-rate';
export * from './probe';
export * from './probe-file';
export * from './refused';
export type { ArchivedStill } from './stills/archive';
export { probeStills, type ProbedStills } from './stills/probe-stills';
export type { ReadBytes } from './isobmff/tables';
