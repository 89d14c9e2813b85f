export type { Bytes, Patch } from './bytes';
export * from './file-marks';
export { markMovie, movieRoom, freeBox } from './isobmff';
export { markSegment, matroskaRoom, ROOM_TAG } from './matroska';
export { markWave } from './wave';
export { id3Tag } from './id3';
export { chapterComments } from './comments';
