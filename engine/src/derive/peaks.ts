import { PEAKS_PIECE_SAMPLES } from '@hastig/contract';
import { PeakMaker } from '@hastig/core';
import { decodedSound } from '../media/decoded-sound';
import { openSound } from '../media/open-sound';
import type { DeriveJob, Maker } from './job';

/** Makes the peaks of a track of sound; `params` is the track's number. */
export async function peaksMaker({ location, params }: DeriveJob): Promise<Maker> {
  const { track, facts, dispose } = await openSound(location, Number(params), 'so there is no waveform');
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
    close: () => Promise.resolve(dispose()),
  };
}
