import type { YuvSpace } from '@hastig/core';
import type { VideoSample } from 'mediabunny';
import { planeSpace } from './plane-space';

type ColourSpace = VideoSample['colorSpace'];

/** What a file's pictures are when its sources do not decide it: HDTV's, ITU-R BT.709, in limited range. */
const standard: VideoColorSpaceInit = { primaries: 'bt709', transfer: 'bt709', matrix: 'bt709', fullRange: false };

/** The colours a file is written in: what is said of them, and how its planes are made of red, green and blue. */
export interface FileColours {
  init: VideoColorSpaceInit;
  planes: YuvSpace;
}

/**
 * The colours of a file: those of its first picture, where planes of its kind can be made here too; HDTV's else.
 *
 * @param first undefined where there is no picture
 * @param range whether numbers from 0 to 255 are used, or from 16 to 235; as the picture does unless told
 */
export function fileColours(first: ColourSpace | undefined, range?: boolean): FileColours {
  const own = first ?? standard;
  const { primaries, transfer, matrix } = own;
  const fullRange = range ?? own.fullRange;
  const planes = planeSpace({ primaries, transfer, matrix, fullRange });
  if (!planes) return fileColours(undefined, range);
  return {
    init: { primaries, transfer, matrix, fullRange } as VideoColorSpaceInit,
    planes,
  };
}

/** Whether a picture is in a file's colours as it is. */
export function inColours({ primaries, transfer, matrix, fullRange }: ColourSpace, { init }: FileColours): boolean {
  return (
    primaries === init.primaries && transfer === init.transfer && matrix === init.matrix && fullRange === init.fullRange
  );
}
