import { spawnSync } from 'node:child_process';
import { existsSync, mkdtempSync, readFileSync, rmSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';

/**
 * Loops of played drums in Debian's package `sonic-pi-samples` (CC0), read by Debian's `flac`. Their grid is told by their length
 * alone: so many beats that the tempo is the one nearest 115 a minute. Three more (`electric`, `mehackit1`, `perc2`) begin beside
 * the beat, so their length says nothing of where it is; `3d_printer` and `drone_g_97` have none.
 */
const NAMES = [
  'amen',
  'amen_full',
  'breakbeat',
  'compus',
  'garzul',
  'industrial',
  'mehackit2',
  'mika',
  'perc1',
  'safari',
  'tabla',
  'weirdo',
] as const;
const FOLDER = '/usr/share/sonic-pi/samples';
const LIKELY_TEMPO = 115;

interface DrumLoop {
  name: string;
  rate: number;
  /** The loop over and over, one channel. */
  samples: Float32Array;
  /** Seconds of each beat. */
  beats: number[];
}

/** The loops, each gone round in for so many seconds; none where they are not installed. */
export function drumLoops(seconds: number): DrumLoop[] {
  if (!existsSync(FOLDER) || spawnSync('flac', ['--version']).status !== 0) return [];
  const folder = mkdtempSync(join(tmpdir(), 'hastig-loops-'));
  try {
    return NAMES.map((name) => {
      const file = join(folder, `${name}.wav`);
      spawnSync('flac', ['-d', '-s', '-f', '-o', file, join(FOLDER, `loop_${name}.flac`)]);
      return goneRound(name, readFileSync(file), seconds);
    });
  } finally {
    rmSync(folder, { recursive: true, force: true });
  }
}

function goneRound(name: string, wav: Buffer, seconds: number): DrumLoop {
  const { rate, samples: once } = readWav(wav);
  const length = once.length / rate;
  const beatsIn = [1, 2, 4, 8, 16, 32];
  const far = (count: number): number => Math.abs(Math.log((count * 60) / length / LIKELY_TEMPO));
  const period = length / beatsIn.sort((a, b) => far(a) - far(b))[0]!;
  return {
    name,
    rate,
    samples: Float32Array.from({ length: Math.round(seconds * rate) }, (_, i) => once[i % once.length]!),
    beats: Array.from({ length: Math.floor(seconds / period) }, (_, i) => i * period),
  };
}

/** PCM of 16 or 24 bits in a WAVE file, all channels as one. */
function readWav(wav: Buffer): { rate: number; samples: Float32Array } {
  let [channels, rate, bits] = [1, 44_100, 16];
  for (let at = 12; at + 8 <= wav.length;) {
    const [id, size] = [wav.toString('latin1', at, at + 4), wav.readUInt32LE(at + 4)];
    const body = at + 8;
    if (id === 'fmt ') {
      [channels, rate, bits] = [wav.readUInt16LE(body + 2), wav.readUInt32LE(body + 4), wav.readUInt16LE(body + 14)];
    } else if (id === 'data') {
      const bytes = bits / 8;
      const samples = Float32Array.from({ length: Math.floor(size / bytes / channels) }, (_, frame) => {
        let sum = 0;
        for (let channel = 0; channel < channels; channel++) {
          sum += wav.readIntLE(body + (frame * channels + channel) * bytes, bytes);
        }
        return sum / channels / 2 ** (bits - 1);
      });
      return { rate, samples };
    }
    at = body + size + (size % 2);
  }
  throw new Error('a WAVE file without sound');
}
