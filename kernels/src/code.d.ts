/** The kernels' code, compiled when it is bundled (see `plugin.ts`). */
declare const code: Uint8Array<ArrayBuffer>;
export default code;
