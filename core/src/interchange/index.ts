export * from './edl';
export * from './markers';
export * from './otio';
export * from './timing';
