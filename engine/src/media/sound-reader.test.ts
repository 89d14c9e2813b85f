import { constantSpan, makeRate, mapProgram, readTape, soundPieces, soundRuns } from '@hastig/core';
import type { InputAudioTrack } from 'mediabunny';
import { SoundReader } from './sound-reader';

const mockRate = 48_000;
const mockPacket = 1024;

// Stands for a codec whose packets need the one before: of whatever is decoded first, nothing is heard. Its sound is steady,
// 0.5 on every channel, and begins one packet before 0, as encoders have it.
jest.mock('mediabunny', () => ({
  AudioSampleSink: class {
    async *samples(start: number, end: number) {
      const first = Math.max(-1, Math.floor((start * mockRate) / mockPacket));
      for (let packet = first; packet * mockPacket < end * mockRate && packet < 200; packet++) {
        yield {
          timestamp: (packet * mockPacket) / mockRate,
          numberOfFrames: mockPacket,
          copyTo: (target: Float32Array) => target.fill(packet === first ? 0 : 0.5),
          close: () => undefined,
        };
      }
    }
  },
}));

async function heard(channels: number, seconds: number): Promise<Float32Array[]> {
  const rate = makeRate(24);
  const frames = seconds * 24;
  const map = { sourceRate: rate, outputRate: rate, sourceFrames: frames, start: 0, spans: [constantSpan(1, frames)] };
  const reader = new SoundReader({ getCodec: () => 'aac' } as unknown as InputAudioTrack, channels, mockRate, 0, 24);
  const out = [0, 1].map(() => new Float32Array(seconds * mockRate));
  for (const piece of soundPieces(soundRuns(mapProgram(map, 'a')), mockRate, 0, seconds * mockRate)) {
    await readTape(reader, piece, mockRate, out, 0);
  }
  return out;
}

it('reads a steady sound steadily, wherever it begins to decode', async () => {
  const [left] = await heard(2, 1.25);
  // But for where it is cut off at both ends.
  const inside = left!.subarray(200, left!.length - 200);
  expect(Math.min(...[...inside].filter((_, n) => n % 7 === 0))).toBeGreaterThan(0.495);
  expect(inside.every((value) => value > 0.49 && value < 0.51)).toBe(true);
});

it('mixes more than two channels down', async () => {
  const [left, right] = await heard(6, 1);
  // Its own side, and the middle and what is behind with −3 dB each.
  const level = 0.5 * (1 + 2 * Math.SQRT1_2);
  expect(left![24_000]).toBeCloseTo(level, 2);
  expect(right![24_000]).toBeCloseTo(level, 2);
});
