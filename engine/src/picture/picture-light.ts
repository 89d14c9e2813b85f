import { fromPlanes, lightsOf, YUV_BITS } from '@hastig/core';
import type { VideoSample } from 'mediabunny';
import { isPlanar, planarOf } from './planar';
import { planeSpace } from './plane-space';

/** Of so many pixels in a row and of rows, one is looked at: mean light changes little by that. */
const STEP = 4;
/** Pixels of the width to which other kinds of pictures are made smaller. */
const SMALL = 160;

/** The mean light of a picture, 0 to 1, of its brightness as it is shown. */
export async function lightIn(sample: VideoSample): Promise<number> {
  const space = isPlanar(sample) ? planeSpace(sample.colorSpace) : undefined;
  const planes = space && (await planarOf(sample));
  if (!space || !planes) return drawnLight(sample);
  const { black, luma } = fromPlanes(space);
  const lights = Float32Array.from({ length: 256 }, (_, value) => {
    const shown = ((value - black) * luma) >> YUV_BITS;
    return lightsOf[Math.min(255, Math.max(0, shown))]!;
  });
  const { width, height, data } = planes;
  let [sum, count] = [0, 0];
  for (let y = 0; y < height; y += STEP)
    for (let n = y * width, end = n + width; n < end; n += STEP, count++) sum += lights[data[n]!]!;
  return sum / count;
}

/** The shares of red, green and blue in brightness (ITU-R BT.709). */
const SHARES = [0.2126, 0.7152, 0.0722] as const;

function drawnLight(sample: VideoSample): number {
  const { displayWidth, displayHeight } = sample;
  const width = Math.min(SMALL, displayWidth);
  const height = Math.max(1, Math.round((displayHeight * width) / displayWidth));
  const context = new OffscreenCanvas(width, height).getContext('2d', { willReadFrequently: true })!;
  sample.draw(context, 0, 0, width, height);
  const { data } = context.getImageData(0, 0, width, height);
  let sum = 0;
  for (let n = 0; n < data.length; n += 4)
    SHARES.forEach((share, colour) => (sum += share * lightsOf[data[n + colour]!]! * (data[n + 3]! / 255)));
  return sum / (width * height);
}
