import { PEAKS_PIECE_SAMPLES } from '@hastig/contract';
import { PeakMaker } from '@hastig/core';
import { RefusedMedia } from '@hastig/probe';
import { openMedia } from '../media/open';
import { decodedSound } from '../media/decoded-sound';
import type { DeriveJob, Maker } from './job';

/** Makes the peaks of a track of sound; `params` is the track's number. */
export async function peaksMaker({ location, params }: DeriveJob): Promise<Maker> {
  const media = await openMedia(location);
  const number = Number(params);
  const [track, facts] = [media.sounds[number], (media.facts.sounds ?? [media.facts.audio])[number]];
  if (!track || !facts || !(await track.canDecode())) {
    media.dispose();
    throw new RefusedMedia('This browser can’t decode the sound, so there is no waveform.');
  }
  const { sampleRate, channels, seconds } = facts;
  return {
    total: Math.round(seconds * sampleRate),
    perPiece: PEAKS_PIECE_SAMPLES,
    make: async ({ start, end }, onDone, signal) => {
      const maker = new PeakMaker(end - start);
      for await (const { at, samples } of decodedSound(track, { sampleRate, channels }, start, end)) {
        signal.throwIfAborted();
        for (const channel of samples) maker.add(at - start, channel);
        onDone(Math.max(0, Math.min(end, at + samples[0]!.length) - start));
      }
      return maker.bytes().buffer;
    },
    close: () => Promise.resolve(media.dispose()),
  };
}
