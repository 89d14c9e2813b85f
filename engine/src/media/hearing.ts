import type { SoundFacts } from '@hastig/contract';
import { codecName } from './codec-name';

/** A track of sound, as far as it is asked whether it can be decoded. */
interface Decodable {
  canDecode(): Promise<boolean>;
  getCodec(): Promise<string | null>;
}

/** Sound of recorders and cameras (ETSI TS 102 366) that browsers leave to their devices; a decoder of our own reads it. */
const ours = new Set(['ac3', 'eac3']);
/** What every browser that this program runs in decodes (WebCodecs registry), or the reading library does by itself. */
const theirs = /^(aac|mp3|opus|vorbis|flac|ulaw|alaw|pcm-)/;

/**
 * Whether a track of sound can be decoded here. Where the browser has no decoder and there is one of our own, that is loaded first, once.
 */
export async function canHear(track: Decodable): Promise<boolean> {
  if (await track.canDecode()) return true;
  if (!ours.has((await track.getCodec()) ?? '')) return false;
  (await import('@mediabunny/ac3')).registerAc3Decoder();
  return track.canDecode();
}

/**
 * What to tell of a track of sound that stays silent, and what to do; undefined for one that is heard. By its codec: no file is opened.
 *
 * @param sound null for none, which is nothing to tell
 */
export function silentWords(sound: Pick<SoundFacts, 'codec'> | null): string | undefined {
  if (!sound || ours.has(sound.codec) || theirs.test(sound.codec)) return undefined;
  const name = sound.codec === 'unknown' ? 'in an unknown format' : codecName(sound.codec);
  return `The sound is ${name}, which can’t be decoded: it’s silent. Convert the file’s sound to AAC, FLAC or WAV, then replace the file.`;
}
