import { readFile } from 'node:fs/promises';
import type { RetimeMap } from '@hastig/contract';
import { bursts, compile, eases, EditRefused, everyNth, rateToNumber, type BurstPlace, type Keeps } from '@hastig/core';
import { CommandFailed } from './fail';

/** Seconds in the first column of a table, such as `beats` prints. Throws CommandFailed, which names the file and the line. */
export async function readSeconds(path: string): Promise<number[]> {
  const text = await readFile(path, 'utf8').catch((error: NodeJS.ErrnoException) => {
    throw new CommandFailed(`${path}: ${error.code === 'ENOENT' ? 'file not found' : error.message}`);
  });
  const lines = text.split(/\r?\n/).filter((line) => line.trim() !== '');
  const rows = /^\s*-?[\d.]/.test(lines[0] ?? '') ? lines : lines.slice(1);
  const seconds = rows.map((line, index) => {
    const value = Number(line.split(',')[0]);
    if (!Number.isFinite(value)) {
      throw new CommandFailed(`${path}: line ${index + 1 + lines.length - rows.length} doesn’t start with seconds`);
    }
    return value;
  });
  if (seconds.length === 0) throw new CommandFailed(`${path}: no beats`);
  return seconds.sort((a, b) => a - b);
}

export interface BurstFlags {
  base: number;
  speed: number[];
  frames: number;
  every: number;
  place: BurstPlace;
  ramp: number;
  keep: Keeps;
}

/** The map with bursts at beats, given in seconds of its output. Throws CommandFailed where they cannot be. */
export function burstMap(map: RetimeMap, seconds: readonly number[], flags: BurstFlags): RetimeMap {
  const perSecond = rateToNumber(map.outputRate);
  const marks = everyNth(
    seconds.map((one) => one * perSecond),
    flags.every,
  );
  const { base, speed: speeds, frames, place, ramp, keep: keeps } = flags;
  const ease = eases['ease-in-out'];
  try {
    return bursts(map, { from: 0, to: compile(map).length }, marks, {
      ...{ base, speeds, frames, place, ramp, ease, keeps },
    });
  } catch (error) {
    if (error instanceof EditRefused) throw new CommandFailed(error.message);
    throw error;
  }
}
