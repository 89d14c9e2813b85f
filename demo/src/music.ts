import { random, SOUND_RATE } from './sound';

/** A piece of music whose beats are known exactly. */
export interface Piece {
  /** Seconds of each beat, in order; the first is the first of a bar of four. */
  beats: readonly number[];
  seconds: number;
  /** Two channels at `SOUND_RATE`. */
  sound(): [Float32Array, Float32Array];
}

/** Something that sounds from a moment on, and where (0 left, 1 right). */
interface Stroke {
  at: number;
  side: number;
  /** Its sound, seconds after it began; silent after `lasts`. */
  voice(since: number): number;
  lasts: number;
}

const BARS = 16;
const { sin, exp, min, PI } = Math;
const tone = (cycles: number): number => sin(2 * PI * cycles);

/** Hertz of notes, counted in half tones from the A below middle C. */
const pitch = (halfTones: number): number => 220 * 2 ** (halfTones / 12);

const drum = (force: number): Stroke['voice'] => {
  return (t) => force * exp(-t * 16) * min(1, t * 900) * tone(52 * t + 2.2 * (1 - exp(-t * 42)));
};
const slap = (force: number, seed: number): Stroke['voice'] => {
  const noise = random(seed);
  return (t) =>
    force * min(1, t * 2000) * (exp(-t * 24) * 0.55 * (noise() * 2 - 1) + exp(-t * 30) * 0.5 * tone(196 * t));
};
const shaker = (force: number, seed: number): Stroke['voice'] => {
  const noise = random(seed);
  let before = 0;
  return (t) => {
    const now = noise() * 2 - 1;
    const value = force * exp(-t * 70) * min(1, t * 1500) * (now - before) * 0.5;
    before = now;
    return value;
  };
};
const bass = (hertz: number, force: number): Stroke['voice'] => {
  return (t) =>
    force *
    min(1, t * 300) *
    exp(-t * 3.2) *
    (tone(hertz * t) + 0.35 * tone(2 * hertz * t) + 0.12 * tone(3 * hertz * t));
};
/** A glass bar (Fletcher and Rossing, The Physics of Musical Instruments, 2.17), as the chimes are. */
const glass = (hertz: number, force: number): Stroke['voice'] => {
  return (t) =>
    force *
    min(1, t * 1000) *
    (exp(-t * 3) * tone(hertz * t) +
      0.4 * exp(-t * 6) * tone(2.756 * hertz * t) +
      0.15 * exp(-t * 12) * tone(5.404 * hertz * t));
};

function mixed(strokes: readonly Stroke[], seconds: number): [Float32Array, Float32Array] {
  const length = Math.round(seconds * SOUND_RATE);
  const channels: [Float32Array, Float32Array] = [new Float32Array(length), new Float32Array(length)];
  for (const { at, side, voice, lasts } of strokes) {
    const sides = [Math.cos((side * PI) / 2), sin((side * PI) / 2)];
    const begin = Math.ceil(at * SOUND_RATE);
    for (let index = begin; index < min(length, begin + lasts * SOUND_RATE); index++) {
      // It dies away within its last hundredth, and with the piece.
      const since = index / SOUND_RATE - at;
      const fade = min(1, (lasts - since) * 100) * min(1, (seconds - index / SOUND_RATE) * 2);
      const value = voice(since) * fade;
      channels.forEach((channel, number) => (channel[index]! += value * sides[number]!));
    }
  }
  return channels;
}

/** The moment a share of a beat after one of them. */
const within = (beats: readonly number[], beat: number, share: number): number => {
  const next = beats[beat + 1] ?? 2 * beats[beat]! - beats[beat - 1]!;
  return beats[beat]! + share * (next - beats[beat]!);
};

/** Roots of the bars, and the notes above them. */
const ROOTS = [-12, -12, -16, -14] as const;
const CHORD = [0, 7, 12, 16, 19, 24] as const;
const TUNE = [3, 4, 5, 4, 2, 3, 1, 2] as const;

/** Straight: 120 beats a minute from 0.25 s on, kick on each, a bass line in eighths. */
const straightBeats = Array.from({ length: BARS * 4 }, (_, beat) => 0.25 + beat / 2);

function straightStrokes(): Stroke[] {
  return straightBeats.flatMap((at, beat): Stroke[] => {
    const bar = Math.floor(beat / 4);
    const root = ROOTS[bar % 4]!;
    const half = within(straightBeats, beat, 0.5);
    const first = beat % 4 === 0;
    return [
      { at, side: 0.5, voice: drum(first ? 0.62 : 0.5), lasts: 0.4 },
      ...(beat % 2 === 1 ? [{ at, side: 0.45, voice: slap(0.3, 11 + beat), lasts: 0.3 }] : []),
      { at: half, side: 0.7, voice: shaker(0.35, 101 + beat), lasts: 0.12 },
      ...(bar >= 4
        ? [0.25, 0.75].map((share) => ({
            at: within(straightBeats, beat, share),
            side: 0.75,
            voice: shaker(0.14, 301 + beat),
            lasts: 0.1,
          }))
        : []),
      { at, side: 0.5, voice: bass(pitch(root - 12 + (first ? 0 : 0)), first ? 0.3 : 0.22), lasts: 0.5 },
      { at: half, side: 0.5, voice: bass(pitch(root - 12 + (beat % 4 === 3 ? 7 : 0)), 0.13), lasts: 0.3 },
      ...(bar >= 2
        ? [
            {
              at: beat % 2 === 0 ? at : half,
              side: 0.25 + 0.1 * (beat % 4),
              voice: glass(pitch(root + CHORD[TUNE[beat % 8]!]!), 0.1),
              lasts: 1.2,
            },
          ]
        : []),
    ];
  });
}

/** Swinging: from 84 to 96 beats a minute and back, its eighths two to one. */
const swingingBeats: readonly number[] = (() => {
  const beats = [0.4];
  for (let beat = 1; beat < BARS * 3; beat++) {
    const tempo = 90 - 6 * Math.cos((2 * PI * beat) / (BARS * 3));
    beats.push(beats.at(-1)! + 60 / tempo);
  }
  return beats;
})();

function swingingStrokes(): Stroke[] {
  return swingingBeats.flatMap((at, beat): Stroke[] => {
    const bar = Math.floor(beat / 4);
    const root = ROOTS[(bar + 1) % 4]!;
    const late = within(swingingBeats, beat, 2 / 3);
    return [
      ...(beat % 2 === 0 ? [{ at, side: 0.5, voice: drum(beat % 4 === 0 ? 0.55 : 0.36), lasts: 0.4 }] : []),
      ...(beat % 2 === 1 ? [{ at, side: 0.45, voice: slap(0.24, 17 + beat), lasts: 0.3 }] : []),
      { at, side: 0.7, voice: shaker(0.3, 131 + beat), lasts: 0.15 },
      ...(beat % 2 === 1 ? [{ at: late, side: 0.7, voice: shaker(0.2, 401 + beat), lasts: 0.12 }] : []),
      {
        at,
        side: 0.5,
        voice: bass(pitch(root - 12 + [0, 4, 7, 9][beat % 4]!), beat % 4 === 0 ? 0.3 : 0.2),
        lasts: 0.7,
      },
      ...(bar >= 1 && beat % 4 !== 3
        ? [
            {
              at: beat % 4 === 1 ? late : at,
              side: 0.3 + 0.1 * (beat % 5),
              voice: glass(pitch(root + CHORD[TUNE[(beat + 3) % 8]!]!), 0.11),
              lasts: 1.5,
            },
          ]
        : []),
    ];
  });
}

/** The two pieces of music of the workshop, by their names. */
export const pieces = {
  straight: { beats: straightBeats, seconds: 33, sound: () => mixed(straightStrokes(), 33) },
  swinging: { beats: swingingBeats, seconds: 34, sound: () => mixed(swingingStrokes(), 34) },
} as const satisfies Record<string, Piece>;

/** Their files, as they are imported. */
export const music = [
  { name: 'straight', title: 'Straight', file: 'straight.ogg' },
  { name: 'swinging', title: 'Swinging', file: 'swinging.ogg' },
] as const;
