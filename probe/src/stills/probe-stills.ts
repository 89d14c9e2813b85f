import type { MediaFacts, StillFacts } from '@hastig/contract';
import type { ReadBytes } from '../isobmff/tables';
import { RefusedMedia } from '../refused';
import { isStillsArchive, readArchive, type ArchivedStill } from './archive';
import { isImage, readImage, type ImageFacts } from './image';
import { gapsIn } from './numbering';

/** A still, or numbered stills: what they are, and where each one's bytes lie in the file. */
export interface ProbedStills {
  facts: MediaFacts;
  pictures: readonly ArchivedStill[];
}

/** Bytes that tell stills from other files. */
const SIGNATURE = 512;

/**
 * Reads what a still or an archive of numbered stills is; decodes nothing.
 *
 * @param bytes the file's size
 * @param fresh whether it has not been looked at before: then every picture of an archive is looked at
 * @returns undefined for a file that is neither
 * @throws RefusedMedia for stills that cannot be used, with the name of the picture
 */
export async function probeStills(read: ReadBytes, bytes: number, fresh: boolean): Promise<ProbedStills | undefined> {
  const head = await read(0, Math.min(bytes, SIGNATURE));
  if (isImage(head)) {
    const image = await readImage(read, bytes);
    const pictures = [{ name: '', number: 0, from: 0, bytes }];
    return { pictures, facts: factsOf(image, bytes, { pictures: 1 }) };
  }
  if (!isStillsArchive(head)) return undefined;
  const pictures = await readArchive(read, bytes);
  const image = await firstOf(read, fresh ? pictures : pictures.slice(0, 1));
  const numbers = pictures.map(({ number }) => number);
  const gaps = gapsIn(numbers);
  const run = { pictures: pictures.length, first: numbers[0]!, ...(gaps.length > 0 && { gaps }) };
  return {
    pictures,
    facts: factsOf({ ...image, container: `${image.container} stills`, mime: 'application/x-tar' }, bytes, run),
  };
}

// What the first is; the others have to be like it.
async function firstOf(read: ReadBytes, pictures: readonly ArchivedStill[]): Promise<ImageFacts> {
  let first: ImageFacts | undefined;
  let alpha = false;
  for (const { name, from, bytes } of pictures) {
    const image = await readImage((start, end) => read(from + start, from + Math.min(bytes, end)), bytes).catch(
      (error: Error) => {
        throw new RefusedMedia(`${name}: ${error.message}`);
      },
    );
    first ??= image;
    alpha ||= image.alpha;
    if (image.width !== first.width || image.height !== first.height) {
      throw new RefusedMedia(
        `${name} is ${image.width} × ${image.height} pixels, but the first picture is ${first.width} × ${first.height}. Pictures of an image sequence must be the same size: leave this one out, or import it separately.`,
      );
    }
  }
  return { ...first!, alpha };
}

function factsOf(
  { codec, container, mime, width, height, alpha }: ImageFacts,
  bytes: number,
  run: Pick<StillFacts, 'pictures' | 'first' | 'gaps'>,
): MediaFacts {
  return {
    container,
    mime,
    bytes,
    video: null,
    audio: null,
    still: { codec, width, height, ...(alpha && { alpha }), ...run },
  };
}
