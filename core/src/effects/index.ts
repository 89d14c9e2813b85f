export * from './trail';
export * from './flash';
export * from './reframe';
export * from './effects';
