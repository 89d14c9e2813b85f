import { execFile } from 'node:child_process';
import { join } from 'node:path';
import { promisify } from 'node:util';
import { convertFile } from '../../server/src/convert/convert';
import { scratch } from './files';

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
