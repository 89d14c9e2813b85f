import type { Peak } from '@hastig/core';

/** Pixels between two columns of a waveform. */
const COLUMN = 1;
/** Pixels of a silent column. */
const LEAST = 1;

/**
 * Draws a waveform: a column for each pixel, from the lowest to the highest sample it stands for.
 *
 * @param box pixels; only what lies in 0 … `width` of the context is drawn
 * @param toneAt the colour of a column; that of the context unless told
 * @param peakAt the samples that a column from `x` to `x + 1` pixels of the context stands for; undefined where unknown
 */
export function drawWave(
  context: OffscreenCanvasRenderingContext2D,
  box: { x: number; top: number; width: number; height: number },
  seenWidth: number,
  peakAt: (x: number) => Peak | undefined,
  toneAt?: (x: number) => string,
): void {
  const middle = box.top + box.height / 2;
  const half = box.height / 2;
  const end = Math.min(seenWidth, box.x + box.width);
  for (let x = Math.max(0, Math.floor(box.x)); x < end; x += COLUMN) {
    const peak = peakAt(x);
    if (!peak) continue;
    const [up, down] = [peak.high * half, -peak.low * half];
    if (toneAt) context.fillStyle = toneAt(x);
    context.fillRect(x, middle - Math.max(LEAST / 2, up), COLUMN, Math.max(LEAST, up + down));
  }
}
