export { createApp, type AppOptions } from './app';
export type { Sweep } from './media/sweep';
export { openDatabase } from './db/database';
