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

/** The pictures of a job, each as a file: `name 00000.png` and so on. One is coded while the next is made. */
export async function* stillsOf({ job, plan, studio, told }: Made, stem: string): AsyncGenerator<Still> {
  const coder = new StillCoder(job);
  const digits = Math.max(DIGITS, String(plan.count - 1).length);
  let coding: Promise<Still> | undefined;
  for await (const [n, sample] of samplesOf(job, plan, studio)) {
    const name = `${stem} ${String(n).padStart(digits, '0')}.${formatFacts[job.format].ending}`;
    const before = coding;
    coding = coder.code(sample).then((picture) => ({ name, picture }));
    // Who waits for it hears of it; until then nobody does.
    coding.catch(() => undefined);
    if (before) yield await before;
    await told.done(n + 1, sample);
  }
  if (coding) yield await coding;
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

/** Bytes that a picture comes to in a ZIP, which is made for nothing. */
export async function zippedBytes(picture: Blob): Promise<number> {
  let bytes = 0;
  const zip = makeZip([{ name: 'picture', input: await picture.arrayBuffer() }]);
  for await (const { length } of zip as unknown as AsyncIterable<Uint8Array>) bytes += length;
  return bytes;
}

/** A ZIP of numbered pictures, as it comes into being. Pictures are compressed already, and are stored as they are. */
export function zipOfStills(made: Made, stem: string): ReadableStream<Uint8Array> {
  const lastModified = new Date();
  async function* files() {
    // All of a picture at once: as a stream it comes back from the browser in many small pieces.
    for await (const { name, picture } of stillsOf(made, stem))
      yield { name, input: await picture.arrayBuffer(), lastModified };
  }
  return makeZip(files());
}
