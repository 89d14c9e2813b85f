export * from './program';
export * from './picture';
export * from './sound-runs';
export * from './update';
export * from './enlargements';
