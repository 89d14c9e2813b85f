export * from './document';
export * from './rates';
export * from './sources';
export * from './integrity';
export * from './limits';
export * from './merge';
export * from './fields';
export * from './copy-advice';
