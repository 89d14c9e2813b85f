import { gifFault, rateToNumber } from '@hastig/core';
import { GifCoder } from './gif-coder';
import type { Made } from './made';
import { samplesOf } from './stills';

/** An animated GIF, piece by piece. @throws RangeError where it can't be one, in words for people */
export async function* gifOf({ job, plan, studio, told }: Made): AsyncGenerator<Uint8Array<ArrayBuffer>> {
  const fault = gifFault(plan.count, rateToNumber(job.rate));
  if (fault) throw new RangeError(fault);
  const coder = new GifCoder(job);
  for await (const [n, sample] of samplesOf(job, plan, studio)) {
    yield coder.code(sample);
    await told.done(n + 1, sample);
  }
  yield coder.end();
}
