import { hardware, lent, standIn, turns, type Habits } from '../../../test/hardware-decoder';
import { copyingDecoder } from './copying-decoder';
import { putValve, Valve } from './valve';
import type { InputVideoTrack } from 'mediabunny';

/** A way to copy that counts what is open of it. Reading back from hardware takes its time. */
const copier = (copies: { open: number }) => async (frame: VideoFrame, factor: number) => {
  await turns(2);
  copies.open++;
  const close = (): void => void copies.open--;
  return { timestamp: frame.timestamp, factor, close } as unknown as VideoFrame;
};

/** A decoder over a stand-in, with a reader that takes what comes after some turns. */
async function decoder(habits: Habits, readAfter = 1) {
  const valve = new Valve(3);
  const track = { getDecoderConfig: async () => ({ codec: 'x' }) } as unknown as InputVideoTrack;
  putValve(track, () => valve);
  const got: number[] = [];
  const errors: string[] = [];
  const copies = { open: 0 };
  const Copying = copyingDecoder(standIn(habits), copier(copies));
  let reading = Promise.resolve();
  const made = new Copying({
    output: (frame) => {
      reading = reading.then(async () => {
        await turns(readAfter);
        got.push(frame.timestamp);
        frame.close();
        valve.taken();
      });
    },
    error: (error) => errors.push(error.message),
  });
  made.configure((await track.getDecoderConfig())!);
  const feed = (frames: number): void => {
    // In the order of decoding: the later of two comes first.
    for (let n = 0; n < frames; n++) made.decode({ timestamp: n ^ 1 } as EncodedVideoChunk);
  };
  return { made, valve, got, errors, feed, copies, read: () => reading };
}

beforeEach(() => {
  Object.assign(lent, { now: 0, most: 0 });
});

const rising = (count: number): number[] => Array.from({ length: count }, (_, n) => n);

describe.each(hardware)('over a hardware decoder: %s', (_, habits) => {
  it('gives every picture in order, and never has more than four of its frames', async () => {
    const { made, got, feed, read, errors, copies } = await decoder(habits);
    feed(60);
    await made.flush();
    await read();
    expect(got).toEqual(rising(60));
    expect(errors).toEqual([]);
    expect(lent.most).toBeLessThanOrEqual(4);
    expect([lent.now, copies.open]).toEqual([0, 0]);
  });

  it('waits for a reader that is slow, with no more than a few copies ready', async () => {
    const { made, valve, feed, got, read } = await decoder(habits, 25);
    feed(20);
    let most = 0;
    const flushed = made.flush();
    for (let look = 0; look < 200; look++) {
      await turns(1);
      most = Math.max(most, valve.ready);
    }
    expect(most).toBeLessThanOrEqual(3 + 4);
    await flushed;
    await read();
    expect(got).toEqual(rising(20));
  });

  it('gives everything back when it is closed in the middle', async () => {
    const { made, feed, read, copies } = await decoder(habits);
    feed(60);
    await turns(15);
    made.close();
    await turns(60);
    await read();
    expect([lent.now, copies.open]).toEqual([0, 0]);
  });
});

it('does not wait for somebody to read what is shown before the first picture that is read, as in an open group', async () => {
  const valve = new Valve(1, 10e-6);
  const track = { getDecoderConfig: async () => ({ codec: 'x' }) } as unknown as InputVideoTrack;
  putValve(track, () => valve);
  const got: number[] = [];
  const Copying = copyingDecoder(standIn({ pool: 5, reorders: 2, burst: 1, pause: 0 }), copier({ open: 0 }));
  const made = new Copying({
    output: ({ timestamp }) => {
      // As the reading library does: what comes before is closed and not handed on.
      if (timestamp < 10) return;
      got.push(timestamp);
      valve.taken();
    },
    error: () => undefined,
  });
  made.configure((await track.getDecoderConfig())!);
  for (const timestamp of [10, 2, 3, 4, 5, 6, 7, 11, 12, 13]) made.decode({ timestamp } as EncodedVideoChunk);
  await made.flush();
  expect(got).toEqual([10, 11, 12, 13]);
});

it('makes no copy of what nobody wants to see, and gives a blank for it', async () => {
  const valve = new Valve(1, -Infinity, (timestamp) => timestamp % 3 === 0);
  const track = { getDecoderConfig: async () => ({ codec: 'x' }) } as unknown as InputVideoTrack;
  putValve(track, () => valve);
  const got: (number | string)[] = [];
  const blank = ({ timestamp }: VideoFrame) => ({ timestamp, isBlank: true }) as unknown as VideoFrame;
  const Copying = copyingDecoder(standIn({ pool: 2, reorders: 0, burst: 1, pause: 0 }), copier({ open: 0 }), blank);
  const made = new Copying({
    output: (frame) => {
      got.push('isBlank' in frame ? `no ${frame.timestamp}` : frame.timestamp);
      valve.taken();
    },
    error: () => undefined,
  });
  made.configure((await track.getDecoderConfig())!);
  for (const timestamp of [0, 1, 2, 3]) made.decode({ timestamp } as EncodedVideoChunk);
  await made.flush();
  expect(got).toEqual([0, 'no 1', 'no 2', 3]);
  expect(lent.now).toBe(0);
});

it('makes copies as small as they are wanted', async () => {
  const factors: number[] = [];
  const valve = new Valve(3);
  const track = { getDecoderConfig: async () => ({ codec: 'x' }) } as unknown as InputVideoTrack;
  putValve(track, () => valve);
  const Copying = copyingDecoder(standIn({ pool: 5, reorders: 0, burst: 1, pause: 0 }), copier({ open: 0 }));
  const made = new Copying({
    output: (frame) => {
      factors.push((frame as unknown as { factor: number }).factor);
      valve.taken();
    },
    error: () => undefined,
  });
  made.configure((await track.getDecoderConfig())!);
  made.decode({ timestamp: 0 } as EncodedVideoChunk);
  await made.flush();
  expect(factors).toEqual([3]);
});
