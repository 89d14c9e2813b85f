import { picturePlan, rateToNumber } from '@hastig/core';
import { NullTarget, Output } from 'mediabunny';
import { SourcePool } from '../media/source-pool';
import { MakerPool, makersForDevice } from '../picture/makers/maker-pool';
import { Studio } from '../picture/samples';
import { codings, outputFormat } from './formats';
import type { RenderJob } from './job';
import { pictureEncoder } from './picture-encoder';
import { RenderPictures } from './pictures';

/** Where pictures are made to see how long they take, as shares of the length. */
const PLACES = [0.1, 0.5, 0.9];
/** Pictures made at each, and those of them that still wait for what is opened. */
const RUN = 8;
const WARM = 3;
/** Milliseconds after which no further picture is made, once there is one that tells something. */
const ENOUGH = 6000;

/** Which pictures are made to find out: all of a short film. */
export function placesOf(count: number): { from: number; to: number }[] {
  if (count <= PLACES.length * RUN) return [{ from: 0, to: count }];
  return PLACES.map((share) => {
    const from = Math.min(count - RUN, Math.round(share * count));
    return { from, to: from + RUN };
  });
}

/**
 * How long a render of pictures will take on this device, from a few of them that are made and encoded for nothing.
 *
 * @returns seconds; undefined where no picture is made
 * @throws RefusedMedia and what decoder and encoder throw
 */
export async function estimateRender(job: RenderJob): Promise<number | undefined> {
  const { picture: codec } = codings[job.format];
  if (!codec) return undefined;
  const pool = new SourcePool();
  const studio = new Studio(pool, new MakerPool(makersForDevice()));
  studio.follow(job.program);
  const plan = picturePlan(job.program, job.rate, job.exposure);
  const output = new Output({ format: outputFormat(job), target: new NullTarget() });
  const rate = rateToNumber(job.rate);
  const encoder = pictureEncoder(codec, job.quality);
  try {
    await pool.locate(job.sources);
    output.addVideoTrack(encoder, { frameRate: rate });
    await output.start();
    let [took, made, time] = [0, 0, 0];
    const begun = performance.now();
    const enough = (): boolean => made > 0 && performance.now() - begun > ENOUGH;
    for (const { from, to } of placesOf(plan.count)) {
      if (enough()) break;
      const pictures = new RenderPictures(job, plan, studio);
      const first = Math.min(from + WARM, to - 1);
      for (let n = from; n < to && !enough(); n++) {
        const started = performance.now();
        const sample = await pictures.get(n);
        sample.setTimestamp(time++ / rate);
        sample.setDuration(1 / rate);
        await encoder.add(sample);
        sample.close();
        if (n < first) continue;
        took += performance.now() - started;
        made++;
      }
      pictures.close();
    }
    return ((took / made) * plan.count) / 1000;
  } finally {
    await output.cancel().catch(() => undefined);
    await studio.close();
  }
}
