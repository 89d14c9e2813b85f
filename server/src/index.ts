export { createApp, type AppOptions } from './app';
export { openDatabase } from './db/database';
