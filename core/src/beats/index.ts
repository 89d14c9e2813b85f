export { onsetBands, EnvelopeMaker, warmUp, type OnsetBand, type OnsetEnvelope } from './envelope';
export * from './envelope-file';
export { findOnsets, strongest, type Onset } from './onsets';
export * from './find-beats';
export * from './bars';
export * from './marks';
export * from './loudness';
export * from './assign';
export * from './hit-strength';
