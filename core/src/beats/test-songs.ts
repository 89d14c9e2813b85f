/** Songs for tests, made of hits whose beats are known exactly. */

import { doubled } from './marks';

const { sin, exp, min, PI } = Math;

interface Hit {
  /** Seconds. */
  at: number;
  /** Its sound, seconds after it began. */
  hit(time: number): number;
}

/** Sound made of hits. */
export function sound(rate: number, seconds: number, hits: readonly Hit[]): Float32Array {
  const samples = new Float32Array(Math.round(seconds * rate));
  for (const { at, hit } of hits) {
    for (let i = Math.max(0, Math.ceil(at * rate)); i < min(samples.length, (at + 0.5) * rate); i++) {
      samples[i]! += hit(i / rate - at);
    }
  }
  return samples;
}

/** Numbers that look random and are the same every time, −1 to 1 (Park and Miller, 1988). */
export function noise(seed: number): () => number {
  let state = seed;
  return () => (state = (state * 16_807) % 2_147_483_647) / 1_073_741_823.5 - 1;
}

const random = noise(7);
let last = 0;
/** Noise without lows: what changes from sample to sample. */
const hiss = (): number => {
  const next = random();
  const change = next - last;
  last = next;
  return change;
};

const sine = (cycles: number): number => sin(2 * PI * cycles);
export const kick = (time: number): number => 0.8 * exp(-time * 18) * sine(55 * time + 2.5 * (1 - exp(-time * 40)));
export const click = (time: number): number => 0.6 * exp(-time * 300) * sine(2500 * time);
export const hat = (time: number): number => 0.2 * exp(-time * 60) * hiss();
const snare = (time: number): number => 0.3 * exp(-time * 25) * random() + 0.3 * exp(-time * 20) * sine(190 * time);
/** A note of a piano-like sound: a few partials, a soft attack. */
const note =
  (hertz: number, loud = 0.25) =>
  (time: number): number =>
    loud *
    min(1, time / 0.008) *
    exp(-time * 5) *
    (sine(hertz * time) + 0.4 * sine(2 * hertz * time) + 0.2 * sine(3 * hertz * time));

export interface Song {
  name: string;
  /** Seconds of each beat. */
  beats: number[];
  seconds: number;
  hits: Hit[];
}

/** Beats from a tempo that may change with time, in beats per minute. */
function beatsOf(seconds: number, tempo: (time: number) => number): number[] {
  const beats = [0.37];
  while (beats.at(-1)! < seconds - 1) beats.push(beats.at(-1)! + 60 / tempo(beats.at(-1)!));
  return beats;
}

type Part = (beat: number, at: number, length: number) => Hit[];

function song(name: string, tempo: (time: number) => number, part: Part, seconds = 30): Song {
  const beats = beatsOf(seconds, tempo);
  const hits = beats.flatMap((at, beat) => part(beat, at, (beats[beat + 1] ?? at + 60 / tempo(at)) - at));
  return { name, beats, seconds, hits };
}

const rock: Part = (beat, at, length) => [
  ...(beat % 2 === 0 ? [{ at, hit: kick }] : [{ at, hit: snare }]),
  ...(beat % 4 === 2 ? [{ at: at + length / 2, hit: kick }] : []),
  ...[0, 0.5].map((share) => ({ at: at + share * length, hit: hat })),
];
const house: Part = (_, at, length) => [
  { at, hit: kick },
  { at: at + length / 2, hit: (time) => 2 * hat(time) },
];
// Kick and snare of a break, in sixteenths of two beats.
const breaks: Part = (beat, at, length) => [
  ...(beat % 4 === 0 ? [{ at, hit: kick }] : []),
  ...(beat % 4 === 2 ? [{ at: at + length / 2, hit: kick }] : []),
  ...(beat % 2 === 1 ? [{ at, hit: snare }] : []),
  ...[0, 0.5].map((share) => ({ at: at + share * length, hit: hat })),
];
const swing: Part = (beat, at, length) => [
  { at, hit: (time) => 1.5 * hat(time) },
  ...(beat % 2 === 1 ? [{ at: at + (2 / 3) * length, hit: hat }] : []),
  { at, hit: note([65, 82, 98, 110][beat % 4]!, 0.35) },
];
const waltz: Part = (beat, at) => [
  beat % 3 === 0 ? { at, hit: kick } : { at, hit: note(330, 0.3) },
  ...(beat % 3 === 0 ? [{ at, hit: note(110, 0.3) }] : [{ at, hit: note(262, 0.2) }]),
];
const ballad: Part = (beat, at, length) => [
  ...(beat % 4 === 0 ? [{ at, hit: kick }] : []),
  ...(beat % 4 === 2 ? [{ at, hit: snare }] : []),
  ...[0, 0.5].map((share) => ({
    at: at + share * length,
    hit: note(220 * (1 + ((beat * 2 + share * 2) % 3) / 4), 0.2),
  })),
];
const piano: Part = (beat, at, length) => [
  { at, hit: note([131, 165, 196, 165][beat % 4]!, 0.3) },
  { at: at + length / 2, hit: note([262, 330, 392, 330][beat % 4]!, 0.15) },
];

/** Nine songs of different kinds, as an editor meets them. */
export const songs: readonly Song[] = [
  song('rock, 96', () => 96, rock),
  song('house, 128', () => 128, house),
  song('drum and bass, 174', () => 174, breaks),
  song('drift, 108 to 126', (time) => 108 + (18 * time) / 30, rock),
  song('swing, 138', () => 138, swing),
  song('waltz, 150', () => 150, waltz),
  song('ballad, 72', () => 72, ballad),
  song('piano, 104', () => 104, piano),
  song('step, 100 to 132', (time) => (time < 15 ? 100 : 132), rock),
];

// Hats louder than all else, between the beats.
const offBeat: Part = (beat, at, length) => [
  ...(beat % 2 === 0 ? [{ at, hit: kick }] : [{ at, hit: snare }]),
  { at, hit: note([65, 65, 98, 98][beat % 4]!, 0.3) },
  { at: at + length / 2, hit: (time) => 2.5 * hat(time) },
];
// Chords and bass, nothing struck: a chord a bar, broken in halves.
const chords: Part = (beat, at, length) => {
  const root = [131, 110, 87, 98][Math.floor(beat / 4) % 4]!;
  return [
    ...(beat % 4 === 0
      ? [root / 2, root, root * 1.25, root * 1.5].map((hertz) => ({ at, hit: note(hertz, 0.2) }))
      : []),
    ...[0, 0.5].map((share, half) => ({
      at: at + share * length,
      hit: note(root * 2 * [1, 1.25, 1.5, 2, 1.5, 1.25, 1, 1.25][(2 * beat + half) % 8]!, 0.12),
    })),
  ];
};
/** So many beats in a bar: a kick and a bass note on the first, a snare on the last but one, hats on all. */
const meterOf =
  (beats: number): Part =>
  (beat, at) => [
    { at, hit: hat },
    ...(beat % beats === 0
      ? [
          { at, hit: kick },
          { at, hit: note([65, 87, 98, 73][Math.floor(beat / beats) % 4]!, 0.4) },
        ]
      : []),
    ...(beat % beats === beats - 2 ? [{ at, hit: snare }] : []),
    ...(beat % beats === 2 && beats > 4 ? [{ at, hit: note(131, 0.2) }] : []),
  ];

/** Songs that nothing is fitted to. */
export const unheardSongs = {
  offBeat: song('off-beat hats, 112', () => 112, offBeat),
  chords: song('chords only, 84', () => 84, chords),
  five: song('five beats a bar, 120', () => 120, meterOf(5)),
  seven: song('seven beats a bar, 132', () => 132, meterOf(7)),
  three: song('three beats a bar, 108', () => 108, meterOf(3)),
} as const;

/**
 * How well beats were found: the F-measure of those within 70 ms, each counted once, after the first five seconds, as is usual
 * (M. Davies, N. Degara, M. Plumbley, “Evaluation methods for musical audio beat tracking algorithms”, 2009).
 */
export function fMeasure(found: readonly number[], truth: readonly number[]): number {
  const late = (beats: readonly number[]): number[] => beats.filter((at) => at >= 5);
  const [mine, theirs] = [late(found), late(truth)];
  let hits = 0;
  let next = 0;
  for (const at of theirs) {
    while (next < mine.length && mine[next]! < at - 0.07) next++;
    if (next < mine.length && mine[next]! <= at + 0.07) {
      hits++;
      next++;
    }
  }
  return mine.length + theirs.length > 0 ? (2 * hits) / (mine.length + theirs.length) : 1;
}

/** The best measure of beats as they are, of every other one, and of twice as many: how well they are found but for their level. */
export function fAtBestLevel(beats: readonly number[], truth: readonly number[]): number {
  const halved = [0, 1].map((odd) => beats.filter((_, i) => i % 2 === odd));
  return Math.max(...[beats, doubled(beats), ...halved].map((one) => fMeasure(one, truth)));
}
