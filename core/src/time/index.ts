export * from './rational';
export * from './timecode';
export * from './entry';
