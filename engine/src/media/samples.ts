import { decodedSound } from './decoded-sound';
import type { MediaLocation } from './location';
import { mixedToOne } from './mixed-to-one';
import { openMedia } from './open';

/** The file that was read last; the next stretch is most likely of it too. */
let last: { address: string; media: ReturnType<typeof openMedia> } | undefined;

function opened(location: MediaLocation): ReturnType<typeof openMedia> {
  if (!('url' in location)) return openMedia(location);
  if (last?.address !== location.url) {
    void last?.media.then((media) => media.dispose());
    last = { address: location.url, media: openMedia(location) };
    last.media.catch(() => (last = undefined));
  }
  return last.media;
}

/**
 * A stretch of a source's sound as it is, all channels as one; silence where there is none.
 *
 * @param first sample, counted from the source's time 0
 */
export async function readSamples(
  location: MediaLocation,
  first: number,
  count: number,
): Promise<Float32Array<ArrayBuffer>> {
  const media = await opened(location);
  const number = location.soundTrack ?? 0;
  const [track, facts] = [media.sounds[number], (media.facts.sounds ?? [media.facts.audio])[number]];
  const out = new Float32Array(count);
  if (!track || !facts) return out;
  for await (const { at, samples } of decodedSound(track, facts, first, first + count)) {
    out.set(mixedToOne(samples).subarray(0, count - (at - first)), at - first);
  }
  return out;
}
