import type { MissingMedia } from '@hastig/contract';
import type { MediaStore } from '../media/store';

/** The files of a project's sources that are not here, or not whole, each with the name of a source made of it. */
export async function missingMedia(
  { sources }: { sources: readonly MissingMedia[] },
  media: MediaStore,
): Promise<MissingMedia[]> {
  const names = new Map(sources.map(({ sha256, name }) => [sha256, name]));
  const missing: MissingMedia[] = [];
  for (const [sha256, name] of names) if (!(await media.find(sha256))) missing.push({ sha256, name });
  return missing;
}
