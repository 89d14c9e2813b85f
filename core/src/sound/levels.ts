import { speedOf, type SoundPiece, type SoundRun, type SoundSource } from './run';

/** Seconds over which the sound fades on each side of a cut, so that it does not click. */
export const CUT_FADE = 0.002;
/** Seconds between two looks at the speed, with a straight line between. */
const LOOK = 0.005;
/** Below this speed a picture is frozen, to the ear; and a tape falls silent: what stands still is no held voltage. */
const FROZEN = 0.005;
const QUIET_TAPE = 0.05;
/** Seconds in which a frozen tone fades out. */
const FREEZE_FADE = 1;
/** Samples between two looks at gains that were set, with a straight line between. */
const STEP = 32;

const { abs, min, max, floor } = Math;

/** How much is heard of a run at one of the moments its speed is looked at: what is frozen or too fast is not. */
function hushAt(run: SoundRun, source: SoundSource, look: number): number {
  const speedAt = (index: number): number =>
    abs(speedOf(run, source, min(run.to - 1e-6, max(run.from + 1e-6, run.from + index * LOOK))));
  const speed = speedAt(look);
  const fast = speed > run.quietAbove ? max(0, 2 - speed / run.quietAbove) : 1;
  if (!run.voice) return fast * min(1, speed / QUIET_TAPE);
  if (speed >= FROZEN || run.freeze === 'held') return fast;
  if (run.freeze === 'silent') return speed / FROZEN;
  let frozen = 0;
  while (frozen * LOOK < FREEZE_FADE && look - frozen - 1 >= 0 && speedAt(look - frozen - 1) < FROZEN) frozen++;
  return (1 - min(1, (frozen * LOOK) / FREEZE_FADE)) ** 2;
}

const isHushed = ({ voice, freeze, quietAbove }: SoundRun): boolean =>
  quietAbove < Infinity || voice === null || freeze !== 'held';

/**
 * Puts a run's level on samples of it: freezes and fast parts, gain, pan and fades, and the short fade at every cut.
 *
 * @param samples one array a channel, changed in place; two, where the level has sides
 * @param outputRate output samples per second
 */
export function putLevels(
  { run, first, count }: SoundPiece,
  source: SoundSource,
  outputRate: number,
  samples: readonly Float32Array[],
): void {
  if (isHushed(run)) {
    const from = first / outputRate - run.from;
    let known = floor(from / LOOK);
    let [low, high] = [hushAt(run, source, known), hushAt(run, source, known + 1)];
    for (let n = 0; n < count; n++) {
      const place = ((first + n) / outputRate - run.from) / LOOK;
      const look = floor(place);
      if (look !== known) [known, low, high] = [look, high, hushAt(run, source, look + 1)];
      const hush = low + (place - look) * (high - low);
      if (hush !== 1) for (const channel of samples) channel[n]! *= hush;
    }
  }
  if (run.gainsAt) putGains(run.gainsAt, first, count, outputRate, samples);
  if (run.fadeIn || run.fadeOut) putCutFades(run, first, count, outputRate, samples);
}

function putGains(
  gainsAt: NonNullable<SoundRun['gainsAt']>,
  first: number,
  count: number,
  outputRate: number,
  samples: readonly Float32Array[],
): void {
  // From multiples of the step on, whatever piece is asked for.
  let step = floor(first / STEP) * STEP;
  let low = gainsAt(step / outputRate);
  while (step < first + count) {
    const high = gainsAt((step + STEP) / outputRate);
    for (let n = max(step, first); n < min(step + STEP, first + count); n++) {
      const share = (n - step) / STEP;
      samples.forEach((channel, side) => {
        const [a, b] = [low[side as 0 | 1], high[side as 0 | 1]];
        channel[n - first]! *= a + share * (b - a);
      });
    }
    [step, low] = [step + STEP, high];
  }
}

function putCutFades(
  { from, to, fadeIn, fadeOut }: SoundRun,
  first: number,
  count: number,
  outputRate: number,
  samples: readonly Float32Array[],
): void {
  for (let n = 0; n < count; n++) {
    const seconds = (first + n) / outputRate;
    const begun = fadeIn ? (seconds - from) / CUT_FADE : 1;
    const left = fadeOut ? (to - seconds) / CUT_FADE : 1;
    const fade = max(0, min(1, begun, left));
    if (fade !== 1) for (const channel of samples) channel[n]! *= fade;
  }
}
