import type { MixedSound } from '@hastig/core';
import { SoundFeed } from './sound-feed';

jest.mock('mediabunny', () => ({
  AudioSample: function sample(given: object) {
    return { given, close: () => undefined };
  },
}));

const SOUND_RATE = 48_000;
const PIECE = 24_000;

/** Sound whose samples say where they stand, each piece given when it is let go; and what the encoder was given. */
function feed(samples: number, ahead: number, failing?: number) {
  const waiting: (() => void)[] = [];
  const asked: number[] = [];
  const encoded: { at: number; first: number; count: number }[] = [];
  const read = (first: number, count: number): Promise<MixedSound> => {
    asked.push(first);
    return new Promise((resolve, reject) => {
      waiting.push(() =>
        first === failing
          ? reject(new Error('cannot be decoded'))
          : resolve({
              whole: true,
              channels: [0, 1].map(() => Float32Array.from({ length: count }, (_, i) => first + i)),
            }),
      );
    });
  };
  const add = async (sample: unknown): Promise<void> => {
    const { data, timestamp } = (sample as { given: { data: Float32Array; timestamp: number } }).given;
    encoded.push({ at: Math.round(timestamp * SOUND_RATE), first: data[0]!, count: data.length / 2 });
  };
  const sound = new SoundFeed(
    { add },
    { read },
    { samples, delay: 1024, ahead, sampleRate: SOUND_RATE, channels: 2, first: 0 },
  );
  const giveAll = async (): Promise<void> => {
    for (let turn = 0; turn < 50; turn++) {
      waiting.splice(0).forEach((give) => give());
      await Promise.resolve();
    }
  };
  return { sound, asked, encoded, waiting, giveAll };
}

it('pieces are asked for ahead, as many as may be, and encoded in order up to where the picture is', async () => {
  const { sound, asked, encoded, giveAll } = feed(5.5 * PIECE, 3);
  expect(asked).toEqual([0, PIECE, 2 * PIECE]);
  const fed = sound.upTo((PIECE + 1) / SOUND_RATE);
  await giveAll();
  await fed;
  expect(encoded).toEqual([
    { at: -1024, first: 0, count: PIECE },
    { at: PIECE - 1024, first: PIECE, count: PIECE },
  ]);
  expect(asked).toHaveLength(5);
  const rest = sound.upTo(Infinity);
  await giveAll();
  await rest;
  expect(encoded).toHaveLength(6);
  expect(encoded.at(-1)).toEqual({ at: 5 * PIECE - 1024, first: 5 * PIECE, count: PIECE / 2 });
});

it('none is asked for ahead where the sound is made beside the picture', async () => {
  const { sound, asked, giveAll } = feed(3 * PIECE, 0);
  expect(asked).toEqual([]);
  const fed = sound.upTo(1 / SOUND_RATE);
  expect(asked).toEqual([0]);
  await giveAll();
  await fed;
  expect(asked).toEqual([0]);
});

it('what fails ahead is told when it is needed, and not before', async () => {
  const { sound, giveAll } = feed(4 * PIECE, 4, 2 * PIECE);
  const fed = sound.upTo((2 * PIECE) / SOUND_RATE);
  await giveAll();
  await fed;
  await expect(sound.upTo((3 * PIECE) / SOUND_RATE)).rejects.toThrow('cannot be decoded');
});
