import { execFile } from 'node:child_process';
import { mkdtemp, readFile, rm, writeFile } from 'node:fs/promises';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { promisify } from 'node:util';
import seedrandom from 'seedrandom';
import { loosen } from './loosen';
import type { Recipe } from './recipe';
import { RATE, readSound, writeSound } from './sound-file';

const run = promisify(execFile);

const SOUND_FONTS = '/usr/share/sounds/sf2';
/** What noise and voice have beside the music, as ratios of their effective values. */
const NOISE = 10 ** (-30 / 20);
const VOICE = [0.5, 1] as const;
const SPOKEN =
  'The first marble goes down the long rail. Wait for the bell, then let the second one go. ' +
  'Here the track is a little steep, so it jumps. We lift it by two blocks and try again. ' +
  'That was the best run of the day. Who has the blue marble? Put it on the lift. ';

/** A piece as it is heard. */
export interface Played {
  /** One channel, `RATE` samples a second. */
  samples: Float32Array;
  /** Seconds of each beat, and which of them is the first of a whole bar. */
  beats: number[];
  first: number;
}

function score({ style, tempo, bars, id }: Recipe): string {
  const lines = bars.map(({ groove, chords }, bar) => {
    const half = Array.from({ length: style.meter / 2 - 1 }, () => '/').join(' ');
    const played = chords.length === 1 ? chords[0]! : `${chords[0]} ${half} ${chords[1]} ${half}`;
    const changed = groove !== bars[bar - 1]?.groove ? `Groove ${groove}\n` : '';
    return `${changed}${bar + 1} ${played}`;
  });
  const seed = 1 + Math.floor(seedrandom(`score ${id}`)() * 1e6);
  return [`RndSeed ${seed}`, `Tempo ${tempo}`, `Use ${style.file}`, ...lines, ''].join('\n');
}

const effective = (samples: Float32Array): number =>
  Math.sqrt(samples.reduce((sum, value) => sum + value * value, 0) / samples.length);

/** Samples by which an encoder and a decoder may delay sound between them. */
const MOST_DELAY = 4000;

/** Decoded sound from where the original begins: where the two are most alike. */
function inStep(decoded: Float32Array, original: Float32Array): Float32Array {
  const from = Math.min(RATE, original.length >> 1);
  const length = Math.min(2 * RATE, original.length - from - MOST_DELAY);
  const alike = (delay: number): number => {
    let sum = 0;
    for (let n = from; n < from + length; n += 3) sum += original[n]! * (decoded[n + delay] ?? 0);
    return sum;
  };
  let best = 0;
  let most = -Infinity;
  for (let delay = 0; delay < MOST_DELAY; delay++) {
    const fit = alike(delay);
    if (fit > most) [most, best] = [fit, delay];
  }
  return decoded.slice(best, best + original.length);
}

/** What was played, through what it went through. */
async function through(samples: Float32Array, recipe: Recipe, folder: string): Promise<Float32Array> {
  const random = seedrandom(`through ${recipe.id}`);
  const [from, to, mp3] = ['from.wav', 'to.wav', 'to.mp3'].map((name) => join(folder, name)) as [
    string,
    string,
    string,
  ];
  switch (recipe.through) {
    case 'nothing':
      return samples;
    case 'mp3':
      await writeSound(mp3, samples, 96);
      return inStep(await readSound(mp3), samples);
    case 'room':
      await writeSound(
        from,
        samples.map((value) => 0.6 * value),
      );
      await run('sox', ['-q', from, to, 'reverb', String(Math.round(30 + 50 * random()))]);
      return readSound(to);
    case 'noise': {
      const loud = NOISE * effective(samples) * Math.sqrt(3);
      return samples.map((value) => value + loud * (2 * random() - 1));
    }
    case 'voice': {
      await run('espeak-ng', ['-s', String(Math.round(130 + 50 * random())), '-w', from, SPOKEN]);
      await run('sox', ['-q', from, '-r', String(RATE), to]);
      const voice = await readSound(to);
      const loud = ((VOICE[0] + (VOICE[1] - VOICE[0]) * random()) * effective(samples)) / effective(voice);
      const begins = Math.floor(random() * voice.length);
      return samples.map((value, i) => value + loud * voice[(begins + i) % voice.length]!);
    }
  }
}

/** Plays a piece by `mma` and `fluidsynth`, which have to be installed. */
export async function play(recipe: Recipe): Promise<Played> {
  const folder = await mkdtemp(join(tmpdir(), 'hastig-piece-'));
  try {
    const [text, midi, sound] = ['piece.mma', 'piece.mid', 'piece.wav'].map((name) => join(folder, name)) as [
      string,
      string,
      string,
    ];
    await writeFile(text, score(recipe));
    await run('mma', [text, '-f', midi]);
    const loose = loosen(await readFile(midi), recipe);
    await writeFile(midi, loose.midi);
    await run('fluidsynth', ['-ni', '-q', '-r', String(RATE), '-F', sound, join(SOUND_FONTS, recipe.soundFont), midi]);
    const whole = await readSound(sound);
    const from = Math.round(recipe.cut * RATE);
    const samples = await through(whole.slice(from, from + recipe.seconds * RATE), recipe, folder);
    const top = samples.reduce((most, value) => Math.max(most, Math.abs(value)), 1e-6);
    const end = recipe.seconds - 0.05;
    const heard = loose.beats
      .map((at, beat) => ({ at: at - recipe.cut, beat }))
      .filter(({ at }) => at >= 0 && at < end);
    const { meter } = recipe.style;
    return {
      samples: samples.map((value) => (0.9 * value) / top),
      beats: heard.map(({ at }) => at),
      first: (meter - (heard[0]!.beat % meter)) % meter,
    };
  } finally {
    await rm(folder, { recursive: true, force: true });
  }
}
