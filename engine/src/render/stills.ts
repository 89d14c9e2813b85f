import { formatFacts } from '@hastig/core';
import { makeZip } from 'client-zip';
import type { VideoSample } from 'mediabunny';
import type { Made } from './made';
import { RenderPictures } from './pictures';
import { StillCoder } from './still-coder';

/** Digits of a picture's number at least. */
const DIGITS = 5;

interface Still {
  name: string;
  picture: Blob;
}

/** The pictures of a job, each as a file: `name 00000.png` and so on. */
export async function* stillsOf({ job, plan, studio, told }: Made, stem: string): AsyncGenerator<Still> {
  const coder = new StillCoder(job);
  const digits = Math.max(DIGITS, String(plan.count - 1).length);
  for await (const [n, sample] of samplesOf(job, plan, studio)) {
    const name = `${stem} ${String(n).padStart(digits, '0')}.${formatFacts[job.format].ending}`;
    yield { name, picture: await coder.code(sample) };
    await told.done(n + 1, sample);
  }
}

/** Pictures of a job one after the other, each closed once the next is asked for. */
export async function* samplesOf(
  job: Made['job'],
  plan: Made['plan'],
  studio: Made['studio'],
): AsyncGenerator<[n: number, sample: VideoSample]> {
  const pictures = new RenderPictures(job, plan, studio);
  try {
    for (let n = 0; n < plan.count; n++) {
      const sample = await pictures.get(n);
      try {
        yield [n, sample];
      } finally {
        sample.close();
      }
    }
  } finally {
    pictures.close();
  }
}

/** A ZIP of numbered pictures, as it comes into being. Pictures are compressed already, and are stored as they are. */
export function zipOfStills(made: Made, stem: string): ReadableStream<Uint8Array> {
  const lastModified = new Date();
  async function* files() {
    for await (const { name, picture } of stillsOf(made, stem)) yield { name, input: picture, lastModified };
  }
  return makeZip(files());
}
