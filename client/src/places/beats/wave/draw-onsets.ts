import { onsetBands, type BeatAnalysis, type OnsetBand } from '@hastig/core';
import { frameToX, type TimeView } from '../../../time-view/use-time-view';
import { AXIS_FONT, colour, type ColourName } from '../../../ui/palette';

/** Pixels of one row of hits. */
export const ONSET_ROW = 16;
/** Pixels of a hit's mark. */
const MARK = 2;

const tones: Record<OnsetBand, ColourName> = { low: 'fast', mid: 'bone', high: 'slow' };

/** A hit where it is heard: a frame (real) of the timeline. */
interface HeardHit {
  frame: number;
  strength: number;
}

/** The hits of each band as they are heard on the timeline, in order; made once for a timing and an analysis, not with every drawing. */
export function heardHits(
  { onsets }: BeatAnalysis,
  frameOf: (seconds: number) => number | undefined,
): Record<OnsetBand, HeardHit[]> {
  const heard = (band: OnsetBand): HeardHit[] =>
    onsets[band]
      .flatMap(({ time, strength }) => {
        const frame = frameOf(time);
        return frame === undefined ? [] : [{ frame, strength }];
      })
      .sort((a, b) => a.frame - b.frame);
  return { low: heard('low'), mid: heard('mid'), high: heard('high') };
}

/** Draws hits in three rows, one for each band, the low ones at the bottom: the stronger, the taller. */
export function drawOnsets(
  context: OffscreenCanvasRenderingContext2D,
  top: number,
  hits: Record<OnsetBand, readonly HeardHit[]>,
  view: TimeView,
): void {
  context.font = AXIS_FONT;
  context.textAlign = 'left';
  onsetBands.toReversed().forEach((band, row) => {
    const bottom = top + (row + 1) * ONSET_ROW - 1;
    context.fillStyle = colour('line', 0.6);
    context.fillRect(0, bottom, view.width, 1);
    context.fillStyle = colour(tones[band]);
    let last = -Infinity;
    for (const { frame, strength } of hits[band]) {
      const x = frameToX(view, frame);
      if (x < 0 || x > view.width || x - last < 1) continue;
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
