import { readFile, stat } from 'node:fs/promises';
import { GifReader } from 'omggif';
import type { Shown } from './retime';

/** A GIF that is read: the framework's reader of it loses when pictures are shown, and never ends. */
export interface Gif {
  width: number;
  height: number;
  times: Shown[];
  /** Each picture as it is shown, as RGBA; the same memory every time. */
  pictures(): Generator<Buffer>;
}

/** Bytes of a GIF, which is read as a whole, and pixels of a picture, of which a few lie in memory; at most. A file of some bytes can ask for much. */
const MOST_BYTES = 2 ** 29;
const MOST_PIXELS = 2 ** 24;
/** Hundredths of a second: a picture that says less is shown for as long as the usual one (common practice of browsers). */
const LEAST = 2;
const USUAL = 10;
/** What becomes of a picture when the next one comes (GIF89a, 23.c.iv). */
const TO_BACKGROUND = 2;
const TO_PREVIOUS = 3;

/**
 * Reads a GIF (GIF89a).
 *
 * @throws RangeError for one that is too large, or holds no picture; what is broken in it
 */
export async function readGif(path: string): Promise<Gif> {
  if ((await stat(path)).size > MOST_BYTES) throw new RangeError('The GIF is larger than 512 MB. Make a shorter one.');
  const gif = new GifReader(await readFile(path));
  const { width, height } = gif;
  if (width * height > MOST_PIXELS)
    throw new RangeError(
      `The GIF’s pictures are too large: ${width} × ${height}. At most ${Math.floor(MOST_PIXELS / 1e6)} million pixels are converted. Make a smaller one.`,
    );
  if (gif.numFrames() === 0) throw new RangeError('The GIF holds no picture.');
  return { width, height, times: timesOf(gif), pictures: () => picturesOf(gif) };
}

function timesOf(gif: GifReader): Shown[] {
  let at = 0;
  return Array.from({ length: gif.numFrames() }, (_, n) => {
    const { delay } = gif.frameInfo(n);
    const hundredths = delay < LEAST ? USUAL : delay;
    const from = at / 100;
    at += hundredths;
    return { from, seconds: hundredths / 100 };
  });
}

function* picturesOf(gif: GifReader): Generator<Buffer> {
  const shown = Buffer.alloc(4 * gif.width * gif.height);
  for (let n = 0; n < gif.numFrames(); n++) {
    const { disposal, x, y, width, height } = gif.frameInfo(n);
    const before = disposal === TO_PREVIOUS ? Buffer.from(shown) : undefined;
    gif.decodeAndBlitFrameRGBA(n, shown);
    yield shown;
    before?.copy(shown);
    if (disposal !== TO_BACKGROUND) continue;
    for (let row = y; row < Math.min(y + height, gif.height); row++)
      shown.fill(0, 4 * (row * gif.width + x), 4 * (row * gif.width + Math.min(x + width, gif.width)));
  }
}
