export * from './program';
export * from './picture';
export * from './sound-runs';
export * from './program-mix';
export * from './update';
export * from './enlargements';
