import { onsetBands, type OnsetBand } from '@hastig/core';
import type { BeatAnalysis } from '@hastig/engine';
import { AXIS_FONT, colour, type ColourName } from '../../../ui/palette';

/** Pixels of one row of hits. */
export const ONSET_ROW = 16;
/** Pixels of a hit's mark. */
const MARK = 2;

const tones: Record<OnsetBand, ColourName> = { low: 'fast', mid: 'bone', high: 'slow' };

/**
 * Draws hits in three rows, one for each band, the low ones at the bottom: the stronger, the taller.
 *
 * @param xOf seconds of the content as pixels; undefined where they are not seen
 */
export function drawOnsets(
  context: OffscreenCanvasRenderingContext2D,
  top: number,
  { onsets }: BeatAnalysis,
  xOf: (seconds: number) => number | undefined,
): void {
  context.font = AXIS_FONT;
  context.textAlign = 'left';
  onsetBands.toReversed().forEach((band, row) => {
    const bottom = top + (row + 1) * ONSET_ROW - 1;
    context.fillStyle = colour('line', 0.6);
    context.fillRect(0, bottom, context.canvas.width, 1);
    context.fillStyle = colour(tones[band]);
    let last = -Infinity;
    for (const { time, strength } of onsets[band]) {
      const x = xOf(time);
      if (x === undefined || x - last < 1) continue;
      last = x;
      const height = Math.max(2, strength * (ONSET_ROW - 3));
      context.fillRect(x - MARK / 2, bottom - height, MARK, height);
    }
    context.fillStyle = colour('ink', 0.75);
    context.fillRect(0, bottom - 12, 30, 12);
    context.fillStyle = colour('quiet');
    context.fillText(band, 3, bottom - 3);
  });
}
