import type { YuvSpace } from '@hastig/core';

const matrices = new Map<string | null, YuvSpace['matrix']>([
  // What is decoded has colours, see `core/src/picture/colours.ts`; what is drawn without any is HDTV's.
  [null, 'bt709'],
  ['bt709', 'bt709'],
  ['smpte170m', 'bt601'],
  ['bt470bg', 'bt601'],
]);
// Of wider ranges of light, drawn pictures would hold only what a screen of the usual kind shows.
const wideTransfers: readonly (string | null)[] = ['pq', 'hlg', 'linear'];

/** How planes of a kind that is made here stand to red, green and blue; undefined of other kinds. */
export function planeSpace({ matrix, transfer, fullRange }: VideoColorSpaceInit): YuvSpace | undefined {
  const known = matrices.get(matrix ?? null);
  if (!known || wideTransfers.includes(transfer ?? null)) return undefined;
  return { matrix: known, fullRange: fullRange === true };
}
