import type { InputAudioTrack } from 'mediabunny';
import { decodedSound } from './decoded-sound';

const mockRate = 48_000;
const mockPacket = 960;
const mockSkip = 312;

// Opus as browsers decode it: wherever they begin, the first samples are left out, and what follows is timed as if they had
// not been. Each sample’s value is its own index in the sound.
jest.mock('mediabunny', () => ({
  AudioSampleSink: class {
    async *samples(start: number, end: number) {
      const first = Math.max(0, Math.floor((start * mockRate + mockSkip) / mockPacket));
      let time = Math.max(0, first * mockPacket - mockSkip);
      for (let packet = first; packet * mockPacket - mockSkip < end * mockRate; packet++) {
        const from = packet === first ? mockSkip : 0;
        const index = packet * mockPacket - mockSkip + from;
        const numberOfFrames = mockPacket - from;
        yield {
          ...{ timestamp: time / mockRate, numberOfFrames, close: () => undefined },
          copyTo: (target: Float32Array, { frameOffset }: { frameOffset: number }) =>
            target.forEach((_, place) => (target[place] = index + frameOffset + place)),
        };
        time += numberOfFrames;
      }
    }
  },
  EncodedPacketSink: class {
    // The beginning of the first packet is not part of the sound.
    getPacket = (seconds: number) =>
      seconds < 0
        ? null
        : { duration: (seconds * mockRate < mockPacket - mockSkip ? mockPacket - mockSkip : mockPacket) / mockRate };
    getFirstPacket = () => ({ duration: (mockPacket - mockSkip) / mockRate });
  },
}));

it.each([0, 100, 9600, 48_000])(
  'Opus is where it belongs, wherever one begins to decode: from sample %i',
  async (start) => {
    const track = { getCodec: () => 'opus' } as unknown as InputAudioTrack;
    let next = start;
    for await (const { at, samples } of decodedSound(
      track,
      { sampleRate: mockRate, channels: 1 },
      start,
      start + 3000,
    )) {
      expect(at).toBe(next);
      expect([samples[0]![0], samples[0]!.at(-1)]).toEqual([at, at + samples[0]!.length - 1]);
      next += samples[0]!.length;
    }
    expect(next).toBe(start + 3000);
  },
);
