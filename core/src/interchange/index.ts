export * from './markers';
export * from './otio';
