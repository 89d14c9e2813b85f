import { execFile } from 'node:child_process';
import { join } from 'node:path';
import { promisify } from 'node:util';
import { scratch } from './files';

const run = promisify(execFile);

/** A clip coded anew by the framework, as a browser doesn't decode it; `d` is what the clip is decoded by. */
export async function codedBy(ending: string, source: string, ...steps: string[]): Promise<string> {
  const out = join(await scratch(), `coded.${ending}`);
  await run('gst-launch-1.0', ['-q', 'filesrc', `location=${source}`, '!', 'decodebin', 'name=d', ...steps.join(' ').split(' '), '!', 'filesink', `location=${out}`]); // prettier-ignore
  return out;
}
