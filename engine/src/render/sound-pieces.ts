import { mapProgram, plainSound, ProgramMix, rateToNumber, Voices, type SoundSupply } from '@hastig/core';
import type { RetimeMap, SoundSettings } from '@hastig/contract';
import type { FileLocation } from '../media/location';
import { PictureBudget } from '../media/picture-budget';
import { openSource } from '../media/source';

/** What is asked of a file's sound: a timing and how it is to sound, at so many samples a second. */
export interface SoundJob {
  location: FileLocation;
  map: RetimeMap;
  settings: Partial<SoundSettings>;
  rate: number;
}

/**
 * The sound of one file at a timing, a second at a time, through the very chain that plays and renders. Of sound alone the map's
 * source rate says what its source frames are.
 *
 * @throws RefusedMedia where the file cannot be read or decoded, or has no sound
 */
export async function* retimedSound({ location, map, settings, rate }: SoundJob): AsyncGenerator<Float32Array[]> {
  const source = await openSource(location, new PictureBudget(0));
  try {
    const { sound, size } = source;
    if (!sound) throw new Error('There is no sound that can be decoded.');
    const supply: SoundSupply = size
      ? sound
      : {
          sampleRate: sound.sampleRate,
          channels: sound.channels,
          pictureStart: 0,
          pictureRate: rateToNumber(map.sourceRate),
          block: (start, end) => sound.block(start, end),
        };
    const program = mapProgram(map, 'source', 'sound');
    program.tracks[0]!.items[0]!.sound = { ...plainSound, ...settings };
    const mix = new ProgramMix(program, async () => supply, new Voices());
    const samples = Math.round((program.length / rateToNumber(map.outputRate)) * rate);
    for (let done = 0; done < samples; done += rate) {
      const count = Math.min(rate, samples - done);
      const { channels } = await mix.read(done, count, rate);
      yield channels ?? [new Float32Array(count), new Float32Array(count)];
    }
  } finally {
    await source.close();
  }
}
