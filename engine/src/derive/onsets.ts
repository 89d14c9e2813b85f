import { onsetHops, onsetHopSamples, ONSETS_PIECE_HOPS } from '@hastig/contract';
import { envelopeBytes, EnvelopeMaker, warmUp } from '@hastig/core';
import { decodedSound } from '../media/decoded-sound';
import { mixedToOne } from '../media/mixed-to-one';
import { openSound } from '../media/open-sound';
import type { DeriveJob, Maker } from './job';

/**
 * What makes the onset envelope of a track of sound, all its channels as one, and how many samples a second it has; `params` is the
 * track's number.
 */
export async function openOnsets({
  location,
  params,
}: Pick<DeriveJob, 'location' | 'params'>): Promise<Maker & { sampleRate: number }> {
  const { track, facts, dispose } = await openSound(location, Number(params), 'so its beats can’t be found');
  const { sampleRate, channels } = facts;
  const hop = onsetHopSamples(sampleRate);
  const warm = warmUp(sampleRate);
  return {
    sampleRate,
    total: onsetHops(facts),
    perPiece: ONSETS_PIECE_HOPS,
    make: async ({ start, end }, onDone, signal) => {
      const maker = new EnvelopeMaker(sampleRate);
      // A piece in the middle hears what leads to it first, so that it is what the whole would be there.
      const before = start > 0 ? warm : 0;
      let at = (start - before) * hop;
      const last = end * hop;
      // Only what is decoded counts; gaps between packets are silence.
      const upTo = (sample: number): void => {
        if (sample > at) maker.push(new Float32Array(sample - at));
        at = Math.max(at, sample);
      };
      for await (const { at: from, samples } of decodedSound(track, { sampleRate, channels }, at, last)) {
        signal.throwIfAborted();
        upTo(from);
        const mono = mixedToOne(samples).subarray(Math.max(0, at - from), Math.max(0, last - from));
        maker.push(mono);
        at += mono.length;
        onDone(Math.max(0, Math.floor(at / hop) - start));
      }
      upTo(last);
      const { bands, levels, changes } = maker.envelope();
      const rows = (all: Float32Array): Float32Array => all.subarray(before, before + end - start);
      const part = ({ low, mid, high }: typeof bands) => ({
        low: rows(low),
        mid: rows(mid),
        high: rows(high),
      });
      return envelopeBytes({ bands: part(bands), levels: part(levels), changes: rows(changes) }).buffer;
    },
    close: () => Promise.resolve(dispose()),
  };
}

export const onsetsMaker = (job: DeriveJob): Promise<Maker> => openOnsets(job);
