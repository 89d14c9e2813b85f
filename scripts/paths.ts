import { fileURLToPath } from 'node:url';

const at = (path: string): string => fileURLToPath(new URL(`../${path}`, import.meta.url));

export const rootFolder = at('.').replace(/\/$/, '');
/** Everything a running Hastig keeps: database, media, state of the build. Not in git. */
export const dataFolder = at('.data');
export const clientFolder = at('client');
export const clientBuild = at('client/dist');
export const engineBuild = at('client/public/engine');
/** The handbook and the notices, as the client shows them. */
export const handbookBuild = at('client/public/handbook');
export const noticesBuild = at('client/public/notices.txt');
export const workerMain = at('worker/src/main.ts');
export const serverMain = at('server/src/main.ts');
