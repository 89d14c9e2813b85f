export * from './content';
export * from './versions';
