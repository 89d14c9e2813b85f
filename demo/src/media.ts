import { fileURLToPath } from 'node:url';

/** Folder of the made clips; they ship with the project. */
export const demoMediaFolder = fileURLToPath(new URL('../media', import.meta.url));
