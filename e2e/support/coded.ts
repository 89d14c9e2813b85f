import { execFile } from 'node:child_process';
import { join } from 'node:path';
import { promisify } from 'node:util';
import { convertFile } from '../../server/src/convert/convert';
import { fixture, scratch } from './files';
import { remake } from './remade';

const run = promisify(execFile);

/** A clip coded anew by the framework, as a browser doesn't decode it; `d` is what the clip is decoded by. */
export async function codedBy(ending: string, source: string, ...steps: string[]): Promise<string> {
  const out = join(await scratch(), `coded.${ending}`);
  await run('gst-launch-1.0', ['-q', 'filesrc', `location=${source}`, '!', 'decodebin', 'name=d', ...steps.join(' ').split(' '), '!', 'filesink', `location=${out}`], { timeout: 60_000 }); // prettier-ignore
  return out;
}

/** A file made of another that browsers don't decode. */
export async function converted(source: string): Promise<string> {
  const out = join(await scratch(), 'converted.mov');
  await convertFile(source, out);
  return out;
}

/** Steps by which pictures of a clip come to an encoder. */
export const pictures = 'd. ! queue ! videoconvert !';

/** HEVC as telephones write it: turned by 90°, at a variable rate, with a knock that is heard with its twelfth picture. */
export async function telephoneFilm(): Promise<{ path: string; times: readonly number[]; knock: number }> {
  const gaps = Array.from({ length: 48 }, (_, n) => (n % 5 === 2 ? 0.06 : 1 / 30 + (n % 3) * 0.003));
  const times = gaps.map((_, n) => gaps.slice(0, n).reduce((sum, gap) => sum + gap, 0));
  const end = times.at(-1)! + gaps.at(-1)!;
  const [of, knock] = [await codedBy('mp4', fixture('plates-24.mp4'), `${pictures} x265enc speed-preset=ultrafast option-string=bframes=0 ! h265parse ! mp4mux`), times[12]!]; // prettier-ignore
  const path = await remake({ of, times, end, rotation: 90, sounds: [{ start: 0, end, knocks: [knock] }] });
  return { path, times, knock };
}

/** Where its plates are once it was turned. */
export const telephonePart = { x: 0, y: 0, width: 180, height: 320, turn: 90 } as const;
