import { execFile } from 'node:child_process';
import { mkdtemp, rm } from 'node:fs/promises';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { promisify } from 'node:util';
import { click, hat, kick, sound } from '@hastig/core/test/songs';
import seedrandom from 'seedrandom';
import { RATE, readSound } from './sound-file';

const run = promisify(execFile);

const SECONDS = 32;
const WORDS =
  'marble track lift bell rail ramp tower gate bridge slow again wait look first then under over blue red glass wood corner ' +
  'block bowl drop turn hand table workshop morning stopwatch frame ball runs stops falls rolls the a of and to it is we you ' +
  'when because almost never always quickly carefully yesterday beautiful extraordinary';
const VOICES = ['en', 'en-us', 'en-gb-scotland', 'en+f3', 'en+m3', 'de', 'fr', 'sv', 'es', 'it'] as const;

/** Sound in which no beat is to be found. */
interface Beatless {
  id: string;
  samples(): Promise<Float32Array>;
}

async function talk(id: string): Promise<Float32Array> {
  const random = seedrandom(id);
  const oneOf = <T>(all: readonly T[]): T => all[Math.floor(random() * all.length)]!;
  const text = Array.from({ length: 40 }, () => {
    const words = Array.from({ length: 3 + Math.floor(random() * 10) }, () => oneOf(WORDS.split(' ')));
    return `${words.join(' ')}${oneOf(['.', ',', '?', '.'])}`;
  }).join(' ');
  const folder = await mkdtemp(join(tmpdir(), 'hastig-talk-'));
  try {
    const file = join(folder, 'talk.wav');
    await run('espeak-ng', ['-v', oneOf(VOICES), '-s', String(Math.round(110 + 100 * random())), '-w', file, text]);
    return (await readSound(file)).slice(0, SECONDS * RATE);
  } finally {
    await rm(folder, { recursive: true, force: true });
  }
}

function noise(id: string): Float32Array {
  const random = seedrandom(id);
  const soft = random() ** 2;
  let held = 0;
  return Float32Array.from({ length: SECONDS * RATE }, () => {
    held += (1 - 0.97 * soft) * (0.6 * random() - 0.3 - held);
    return held;
  });
}

function hitsAtRandom(id: string): Float32Array {
  const random = seedrandom(id);
  const least = 0.08 + 0.15 * random();
  const spread = 0.3 + 0.8 * random();
  const kinds = random() < 0.5 ? [kick] : [kick, hat, click];
  const hits = [];
  for (let at = 0.2; at < SECONDS - 1; at += least + spread * random())
    hits.push({ at, hit: kinds[Math.floor(random() * kinds.length)]! });
  return sound(RATE, SECONDS, hits);
}

/** So much of each: talk in several voices, noise, and hits that come as they like. */
export function beatless(count: number): Beatless[] {
  return Array.from({ length: count }, (_, i): Beatless[] => [
    { id: `talk ${i}`, samples: () => talk(`talk ${i}`) },
    { id: `hits ${i}`, samples: () => Promise.resolve(hitsAtRandom(`hits ${i}`)) },
    ...(i % 3 === 0 ? [{ id: `noise ${i}`, samples: () => Promise.resolve(noise(`noise ${i}`)) }] : []),
  ]).flat();
}
