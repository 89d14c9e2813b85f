export { createApp, type AppOptions } from './app';
export type { Sweep } from './media/sweep';
export { openDatabase } from './db/database';
export { unpackProject, type UnpackedProject } from './projects/unpack';
export { HttpProblem } from './http/problem';
export { convertFile, ConversionFailed } from './convert/convert';
export { foundWords } from './convert/found';
export { CONVERTED } from './media/store';
export { canConvert } from './convert/framework';
