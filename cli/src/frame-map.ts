import type { RetimeMap } from '@hastig/contract';
import { compile, frameCount, heldFrame, positionAt, speedAt } from '@hastig/core';

/** First line of the table. */
const FRAME_MAP_HEADER = 'output,source,held,speed';

// Nine decimals, and no minus before a zero.
function fixed(value: number): string {
  const text = value.toFixed(9);
  return /^-0\.0+$/.test(text) ? text.slice(1) : text;
}

/**
 * The frame map as lines of CSV: for each output frame the source position (not clamped), the held frame (clamped to
 * the source) and the speed at that frame.
 */
export function* frameMapLines(map: RetimeMap): Generator<string> {
  yield FRAME_MAP_HEADER;
  const ready = compile(map);
  const count = frameCount(map);
  for (let n = 0; n < count; n++) {
    yield `${n},${fixed(positionAt(ready, n))},${heldFrame(ready, n)},${fixed(speedAt(ready, n))}`;
  }
}
