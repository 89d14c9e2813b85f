import { SOUND_RATE } from './sound';

/** Seconds of the chimes. */
export const CHIMES_SECONDS = 8;

/** A marble that falls on a glass bar: when, how low the bar is tuned (hertz), how hard, and from which side (0 left, 1 right). */
const strokes: readonly { at: number; pitch: number; force: number; side: number }[] = [
  { at: 0.25, pitch: 523.25, force: 0.9, side: 0.2 },
  { at: 0.75, pitch: 659.25, force: 0.7, side: 0.4 },
  { at: 1.25, pitch: 783.99, force: 0.8, side: 0.6 },
  { at: 1.75, pitch: 1046.5, force: 1, side: 0.8 },
  { at: 2.75, pitch: 880, force: 0.7, side: 0.7 },
  { at: 3.25, pitch: 783.99, force: 0.6, side: 0.5 },
  { at: 3.75, pitch: 659.25, force: 0.8, side: 0.3 },
  { at: 4.25, pitch: 587.33, force: 0.6, side: 0.4 },
  { at: 4.75, pitch: 523.25, force: 1, side: 0.2 },
  { at: 6, pitch: 261.63, force: 0.8, side: 0.5 },
];

/** Partials of a free bar (Fletcher and Rossing, The Physics of Musical Instruments, 2.17): ratio, loudness, decay per second. */
const PARTIALS = [
  [1, 1, 2.2],
  [2.756, 0.45, 4.5],
  [5.404, 0.2, 9],
] as const;

/** Marbles that fall on ten glass bars. @returns two channels at `SOUND_RATE` */
export function chimesSound(): [Float32Array, Float32Array] {
  const length = CHIMES_SECONDS * SOUND_RATE;
  const channels: [Float32Array, Float32Array] = [new Float32Array(length), new Float32Array(length)];
  for (const { at, pitch, force, side } of strokes) {
    const sides = [Math.cos((side * Math.PI) / 2), Math.sin((side * Math.PI) / 2)];
    for (let index = Math.round(at * SOUND_RATE); index < length; index++) {
      const since = index / SOUND_RATE - at;
      let value = 0;
      for (const [ratio, share, decay] of PARTIALS) {
        value += share * Math.exp(-decay * since) * Math.sin(2 * Math.PI * pitch * ratio * since);
      }
      // It sets in over a millisecond, and fades before the end.
      const shape = Math.min(1, since * 1000) * Math.min(1, (CHIMES_SECONDS - index / SOUND_RATE) * 2);
      channels.forEach((channel, number) => (channel[index]! += 0.28 * force * shape * value * sides[number]!));
    }
  }
  return channels;
}
