export * from './fields';
export * from './field-picture';
