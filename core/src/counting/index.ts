export * from './counting';
