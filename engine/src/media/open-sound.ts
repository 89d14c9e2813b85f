import type { SoundFacts } from '@hastig/contract';
import { RefusedMedia } from '@hastig/probe';
import type { InputAudioTrack } from 'mediabunny';
import { canHear } from './hearing';
import type { FileLocation } from './location';
import { openMedia } from './open';

/** A track of sound of a file that was opened for it. */
interface OpenSound {
  track: InputAudioTrack;
  facts: SoundFacts;
  dispose(): void;
}

/**
 * Opens one track of a file's sound, by its number from 0. Whoever opens it disposes of it.
 *
 * @param without what there is not without it, for people: “so there is no waveform”
 * @throws RefusedMedia where there is no such track, or this browser can't decode it
 */
export async function openSound(location: FileLocation, number: number, without: string): Promise<OpenSound> {
  const media = await openMedia(location);
  const [track, facts] = [media.sounds[number], (media.facts.sounds ?? [media.facts.audio])[number]];
  if (!track || !facts || !(await canHear(track))) {
    media.dispose();
    throw new RefusedMedia(`This browser can’t decode the sound, ${without}.`);
  }
  return { track, facts, dispose: () => media.dispose() };
}
