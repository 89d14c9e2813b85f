import { onsetBands, type OnsetEnvelope } from './envelope';
import { mean } from './mean';
import { beatShapes, likeness } from './regularity';

// Looked up once: the loops below run for every value of an envelope.
const { max, min, round } = Math;

/** How beats make bars; the higher the score, the likelier beside others. */
export interface Bars {
  /** Beats in a bar. */
  beats: number;
  /** Which beat is the first of a bar that is whole, from 0 to `beats` − 1. */
  first: number;
  score: number;
}

/** Beats a bar may have that are told by themselves. */
const METERS = [4, 3] as const;
/** Values to each side of a beat in which its hit lies, and those in which the note it begins is heard (5 ms each). */
const NEAR = 8;
const NOTE_FROM = 4;
const NOTE_LASTS = 20;
/** What a sudden hit counts beside a note that is held: a bass note says more than how suddenly it sets in. */
const SUDDEN = 1 / 8;
/** What accents count beside how the sound comes again. */
const ACCENT = 0.5;
/** How much the first beat of a bar is louder in each band: bass and kick are, hats are not. */
const weights = { low: 1, mid: 0.35, high: 0.1 } as const;

/**
 * The ways beats may make bars of three and four, the likeliest first: bars in which the sound comes again, and which begin with the
 * strongest bass.
 */
export function findBars(envelope: OnsetEnvelope, beats: readonly number[]): Bars[] {
  const shapes = beatShapes(envelope, beats);
  const accents = accentsOf(envelope, beats);
  const alike = (lag: number): number =>
    shapes.length > lag ? mean(shapes.slice(lag).map((shape, i) => likeness(shape, shapes[i]!))) : 0;
  return METERS.flatMap((meter) => {
    // A bar of four also comes again after two; one of three does not.
    const again = meter === 4 ? max(alike(4), 0.5 * (alike(2) + alike(4))) : alike(3);
    return Array.from({ length: meter }, (_, first): Bars => {
      const on = mean(accents.filter((_, i) => i % meter === first));
      const off = mean(accents.filter((_, i) => i % meter !== first));
      return { beats: meter, first, score: again + ACCENT * ((on - off) / (on + off || 1)) };
    });
  }).sort((a, b) => b.score - a.score);
}

function accentsOf({ bands, levels, rate, start, levelLag }: OnsetEnvelope, beats: readonly number[]): number[] {
  const total = beats.map(() => 0);
  for (const band of onsetBands) {
    const scale = weights[band] / (mean(bands[band]) || 1);
    const loud = weights[band] / (mean(levels[band]) || 1);
    beats.forEach((beat, i) => {
      const at = (beat - start) * rate;
      let most = 0;
      for (let n = max(0, round(at - NEAR)); n <= min(bands[band].length - 1, at + NEAR); n++)
        most = max(most, bands[band][n]!);
      const from = max(0, round((beat - start - levelLag) * rate) + NOTE_FROM);
      total[i]! += SUDDEN * scale * most + loud * mean(levels[band].subarray(from, from + NOTE_LASTS));
    });
  }
  return total;
}
