import {
  even,
  frameOf,
  motionAt,
  picturePlan,
  StepFinder,
  STEP_EDGE,
  type Program,
  type ProgramSpan,
} from '@hastig/core';
import { SourcePool, type SourceLocations } from '../media/source-pool';
import { MakerPool, makersForDevice } from '../picture/makers/maker-pool';
import { Studio } from '../picture/samples';
import { RenderPictures } from '../render/pictures';
import { breathe } from '../worker/breathe';

/** Pictures between two words of how far it is. */
const TOLD_EVERY = 8;

/**
 * How far what moves goes from each picture of a program to the next, in pixels of pictures as wide as `STEP_EDGE`; found in the pictures
 * as a render makes them, small.
 *
 * @param onProgress told the share that is done
 * @param span what of it; all of it unless told
 * @returns NaN for the first picture and after a cut
 * @throws RefusedMedia and what the decoder throws
 */
export async function measureSteps(
  program: Program,
  sources: SourceLocations,
  onProgress: (share: number) => void,
  span: ProgramSpan = { from: 0, to: program.length },
): Promise<Float32Array> {
  const own = frameOf(program);
  const scale = Math.min(1, STEP_EDGE / Math.max(own.width, own.height));
  const [width, height] = [even(own.width * scale), even(own.height * scale)];
  const plan = picturePlan(program, program.rate, {}, span);
  const pool = new SourcePool();
  const studio = new Studio(pool, new MakerPool(makersForDevice()));
  studio.follow(program);
  const pictures = new RenderPictures({ program, width, height, fit: 'fit' }, plan, studio);
  const context = new OffscreenCanvas(width, height).getContext('2d', { alpha: false, willReadFrequently: true })!;
  const finder = new StepFinder();
  const steps = new Float32Array(plan.count);
  let before: string | undefined;
  try {
    await pool.locate(sources);
    for (let n = 0; n < plan.count; n++) {
      const sample = await pictures.get(n);
      sample.draw(context, 0, 0, width, height);
      sample.close();
      const clip = motionAt(program, span.from + n)?.clipId;
      steps[n] = finder.next({ width, height, data: brightness(context.getImageData(0, 0, width, height).data) }, clip !== before); // prettier-ignore
      before = clip;
      if (n % TOLD_EVERY !== 0) continue;
      onProgress(n / plan.count);
      await breathe();
    }
    return steps;
  } finally {
    pictures.close();
    await studio.close();
  }
}

/** Brightness of pixels, a byte each (ITU-R BT.709). */
function brightness(rgba: Uint8ClampedArray): Uint8Array {
  const grey = new Uint8Array(rgba.length / 4);
  for (let n = 0, at = 0; n < grey.length; n++, at += 4)
    grey[n] = 0.2126 * rgba[at]! + 0.7152 * rgba[at + 1]! + 0.0722 * rgba[at + 2]! + 0.5;
  return grey;
}
