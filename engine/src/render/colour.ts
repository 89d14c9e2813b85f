import type { YuvSpace } from '@hastig/core';
import type { VideoSample } from 'mediabunny';

type ColourSpace = VideoSample['colorSpace'];

/** What a file's pictures are when its sources do not decide it: HDTV's, ITU-R BT.709, in limited range. */
const standard: VideoColorSpaceInit = { primaries: 'bt709', transfer: 'bt709', matrix: 'bt709', fullRange: false };

const matrices = new Map<string | null, YuvSpace['matrix']>([
  // What is decoded has colours, see `core/src/picture/colours.ts`; what is drawn without any is HDTV's.
  [null, 'bt709'],
  ['bt709', 'bt709'],
  ['smpte170m', 'bt601'],
  ['bt470bg', 'bt601'],
]);
// Of wider ranges of light, drawn pictures would hold only what a screen of the usual kind shows.
const wideTransfers: readonly (string | null)[] = ['pq', 'hlg', 'linear'];

/** The colours a file is written in: what is said of them, and how its planes are made of red, green and blue. */
export interface FileColours {
  init: VideoColorSpaceInit;
  planes: YuvSpace;
}

/**
 * The colours of a file: those of its first picture, where planes of its kind can be made here too; HDTV's else.
 *
 * @param first undefined where there is no picture
 */
export function fileColours(first: ColourSpace | undefined): FileColours {
  const { primaries, transfer, matrix, fullRange } = first ?? standard;
  const known = matrices.get(matrix ?? null);
  if (!known || wideTransfers.includes(transfer ?? null)) return fileColours(undefined);
  return {
    init: { primaries, transfer, matrix, fullRange } as VideoColorSpaceInit,
    planes: { matrix: known, fullRange: fullRange === true },
  };
}

/** Whether a picture is in a file's colours as it is. */
export function inColours({ primaries, transfer, matrix, fullRange }: ColourSpace, { init }: FileColours): boolean {
  return (
    primaries === init.primaries && transfer === init.transfer && matrix === init.matrix && fullRange === init.fullRange
  );
}
