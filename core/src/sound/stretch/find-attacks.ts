// Looked up once: the loops below run for every sample.
const { abs, max, round } = Math;

/** Seconds over which the greatest value is taken. */
const HOP = 0.001;
/** How an attack is told: how many hops it is compared with, how many times greater it is than them, and the least it is. */
interface Sign {
  before: number;
  times: number;
  least: number;
}
// As high as leaves every knock of the demo in its place, and as sharp as dense music likes: there each attack more costs its
// pattern (docs/sound.md).
/** It is suddenly loud. */
const LOUD: Sign = { before: 10, times: 6, least: 0.003 };
/** What is high in it is suddenly loud: so a stroke is told over notes that ring on. Longer than a period of a low voice or string. */
const SHARP: Sign = { before: 25, times: 9, least: 0.002 };
/** Hops before an attack in which no other one may be. */
const APART = 13;

/** Samples before a stretch that must be known to find the attacks in it. */
export const attackLead = (sampleRate: number): number =>
  (SHARP.before + APART) * hopOf(sampleRate) + 2 * lagOf(sampleRate);

const hopOf = (sampleRate: number): number => round(HOP * sampleRate);
// What is high is high in the world, whatever the rate.
const lagOf = (sampleRate: number): number => max(1, round(sampleRate / 48_000));

/**
 * The attacks in some samples: where it suddenly gets loud, or what is high in it does. What is one follows from the samples near it
 * alone, so that it is one wherever the source is read from.
 *
 * @param channels samples of each channel, with `attackLead` more before the stretch that is searched; it begins on a multiple of
 *   the hop, one thousandth of a second
 * @returns samples, counted from the first given, in order
 */
export function findAttacks(channels: readonly Float32Array[], sampleRate: number): number[] {
  const [hop, lag] = [hopOf(sampleRate), lagOf(sampleRate)];
  const sharp = channels.map((samples) => secondDifference(samples, lag));
  // The first differences have nothing before them.
  const start = 2 * lag;
  const [loud, high] = [peaksOf(channels, start, hop), peaksOf(sharp, start, hop)];
  const told = Array.from(loud, (_, k) =>
    k < SHARP.before ? null : tells(SHARP, high, k) ? sharp : tells(LOUD, loud, k) ? channels : null,
  );
  const found: number[] = [];
  for (let k = SHARP.before + APART; k < told.length; k++) {
    const by = told[k];
    if (!by || told.slice(k - APART, k).some((one) => one)) continue;
    found.push(beginning(by, start + k * hop, hop, (by === sharp ? high : loud)[k]! / 2));
  }
  return found;
}

function tells({ before, times, least }: Sign, peaks: Float32Array, k: number): boolean {
  const peak = peaks[k]!;
  if (peak < least) return false;
  for (let near = k - before; near < k; near++) if (times * peaks[near]! > peak) return false;
  return true;
}

function secondDifference(samples: Float32Array, lag: number): Float32Array {
  const out = new Float32Array(samples.length);
  for (let n = 2 * lag; n < out.length; n++) out[n] = samples[n]! - 2 * samples[n - lag]! + samples[n - 2 * lag]!;
  return out;
}

function peaksOf(channels: readonly Float32Array[], start: number, hop: number): Float32Array {
  const peaks = new Float32Array(Math.floor(((channels[0]?.length ?? 0) - start) / hop));
  for (const samples of channels) {
    for (let k = 0, n = start; k < peaks.length; k++) {
      for (const end = n + hop; n < end; n++) peaks[k] = max(peaks[k]!, abs(samples[n]!));
    }
  }
  return peaks;
}

/** The first sample of a hop that is so great in any channel. */
function beginning(channels: readonly Float32Array[], from: number, hop: number, level: number): number {
  for (let n = from; n < from + hop; n++) if (channels.some((samples) => abs(samples[n]!) >= level)) return n;
  return from;
}

/** Rounds a sample down to where a hop begins. */
export const hopStart = (sample: number, sampleRate: number): number =>
  Math.floor(sample / hopOf(sampleRate)) * hopOf(sampleRate);
