export * from './time';
export * from './retime';
export * from './picture';
export * from './sound';
export * from './project';
