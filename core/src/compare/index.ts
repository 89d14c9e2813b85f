export * from './sides';
export * from './numbers';
export * from './evenness';
