import type { MediaFacts } from '@hastig/contract';
import type { Source } from 'mediabunny';
import type { ReadBytes } from './isobmff/tables';
import { probeMedia } from './probe';
import { RefusedMedia } from './refused';
import { probeStills } from './stills/probe-stills';

/**
 * Reads what a file is that has not been looked at before: a moving picture, sound, or stills. Decodes nothing.
 *
 * @param source where the bytes come from for the reading library; `read` the same for all else
 * @param bytes its size
 * @throws RefusedMedia for what is none of these
 */
export async function readFacts(source: Source, bytes: number, read: ReadBytes): Promise<MediaFacts> {
  if (bytes === 0) throw new RefusedMedia('The file is empty.');
  const stills = await probeStills(read, bytes, true);
  if (stills) return stills.facts;
  const media = await probeMedia(source, bytes, read);
  media.dispose();
  return media.facts;
}
