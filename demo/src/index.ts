export * from './chimes';
export * from './extras';
export * from './physics';
export * from './plate';
export * from './scenes';
export * from './sound';
export * from './project';
