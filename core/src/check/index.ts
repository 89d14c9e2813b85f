export * from './film-check';
export * from './finding-words';
export * from './warning-words';
