import { AudioSampleSink, EncodedPacketSink, type AudioSample, type InputAudioTrack } from 'mediabunny';

/**
 * Seconds decoded before what is wanted and thrown away. What a packet sounds like depends on the one before it (AAC: its
 * second half overlaps, ISO/IEC 14496-3) or on a little more (Opus: 80 ms, RFC 7845, 4.6): begun at its own start, a stretch
 * begins with a dip.
 */
const LEAD_IN = 0.1;

/** Samples of a sound, one array a channel; `at` is the index of the first, counted from the source's time 0. */
interface DecodedSound {
  at: number;
  samples: Float32Array<ArrayBuffer>[];
}

/**
 * Decodes a stretch of a track, block after block; what lies outside is left out. The arrays of one block are used again for
 * the next.
 *
 * @param start first sample, counted from the source's time 0, `end` the one after the last
 */
export async function* decodedSound(
  track: InputAudioTrack,
  { sampleRate, channels }: { sampleRate: number; channels: number },
  start: number,
  end: number,
): AsyncGenerator<DecodedSound, void, undefined> {
  let room = Array.from({ length: channels }, () => new Float32Array(0));
  // Also before 0, where encoders put what only leads in.
  const begin = start / sampleRate - LEAD_IN;
  let dropped: number | undefined;
  for await (const sample of new AudioSampleSink(track).samples(begin, end / sampleRate)) {
    try {
      dropped ??= await droppedBefore(track, sample, begin, sampleRate);
      // By the rounded index, so that neighbouring blocks neither overlap nor leave a gap.
      const first = Math.round(sample.timestamp * sampleRate) + dropped;
      const [from, to] = [Math.max(0, start - first), Math.min(sample.numberOfFrames, end - first)];
      if (to <= from) continue;
      if (room[0]!.length < to - from) room = room.map(() => new Float32Array(to - from));
      const samples = room.map((channel) => channel.subarray(0, to - from));
      samples.forEach((target, planeIndex) =>
        sample.copyTo(target, { planeIndex, format: 'f32-planar', frameOffset: from, frameCount: to - from }),
      );
      yield { at: first + from, samples };
    } finally {
      sample.close();
    }
  }
}

/**
 * Samples that a decoder has left out of the first block it gave. Opus begins with some that are thrown away (RFC 7845, 4.2,
 * “pre-skip”); decoders do so wherever they begin, and time what follows as if they had not.
 */
async function droppedBefore(
  track: InputAudioTrack,
  first: AudioSample,
  begin: number,
  sampleRate: number,
): Promise<number> {
  if ((await track.getCodec()) !== 'opus') return 0;
  const packets = new EncodedPacketSink(track);
  const packet = (await packets.getPacket(begin)) ?? (await packets.getFirstPacket());
  return Math.max(0, Math.round((packet?.duration ?? 0) * sampleRate) - first.numberOfFrames);
}
