import { onsetBands, type OnsetEnvelope } from './envelope';
import { mean } from './mean';
import { beatShapes, likeness, novelty } from './beat-shapes';

// Looked up once: the loops below run for every value of an envelope.
const { log2, max, min, round, sqrt } = Math;

/** Beats a bar may have. */
const METERS = [2, 3, 4, 5, 6, 7] as const;
/** Seconds to each side of a beat in which its hit lies, and those in which the note it begins is heard. */
const NEAR = 0.04;
const NOTE_FROM = 0.02;
const NOTE_LASTS = 0.1;
/** Beats after which the sound is compared. */
const FARTHEST = 16;
/** Beats on each side over which phrases are looked for. */
const PHRASES = [4, 8] as const;

/** One way beats may make bars, with what is known of it. */
interface BarWay {
  /** Beats in a bar, and which beat is the first of a whole one. */
  beats: number;
  first: number;
  features: number[];
}

/** Values with the mean 0 and the deviation 1. */
function standard(values: readonly number[]): number[] {
  const middle = mean(values);
  const deviation = sqrt(mean(values.map((value) => (value - middle) ** 2)));
  return deviation > 1e-9 ? values.map((value) => (value - middle) / deviation) : values.map(() => 0);
}

/** For each beat what begins there: hits in each band, how loud each is after it, and how much the notes change. */
function heardOn(envelope: OnsetEnvelope, beats: readonly number[]): number[][] {
  const { bands, levels, changes, rate, start, levelLag, changeLag } = envelope;
  const most = (values: Float32Array, time: number): number => {
    let top = 0;
    for (let i = max(0, round(time - NEAR * rate)); i <= min(values.length - 1, time + NEAR * rate); i++)
      top = max(top, values[i]!);
    return top;
  };
  const loud = (values: Float32Array, from: number): number =>
    mean(values.subarray(max(0, round(from)), max(0, round(from + NOTE_LASTS * rate))));
  return [
    ...onsetBands.map((band) => beats.map((beat) => most(bands[band], (beat - start) * rate))),
    ...onsetBands.map((band) => beats.map((beat) => loud(levels[band], (beat - start - levelLag + NOTE_FROM) * rate))),
    beats.map((beat) => most(changes, (beat - start - changeLag) * rate)),
  ].map(standard);
}

/** The mean of values at one place of each bar. */
function meanAt(values: readonly number[], meter: number, place: number): number {
  let [sum, count] = [0, 0];
  for (let i = ((place % meter) + meter) % meter; i < values.length; i += meter) {
    sum += values[i]!;
    count++;
  }
  return count > 0 ? sum / count : 0;
}

/**
 * All ways beats may make bars of two to seven, each with what is known of it: what begins on the first beat and on those after
 * it, and after how many beats the sound comes again.
 *
 * @param beats seconds, in order
 */
export function barWays(envelope: OnsetEnvelope, beats: readonly number[]): BarWay[] {
  const shapes = beatShapes(envelope, beats);
  const rows = [...heardOn(envelope, beats), ...PHRASES.map((reach) => standard(novelty(shapes, reach)))];
  const alike = Array.from({ length: FARTHEST + 1 }, (_, lag) =>
    lag > 0 && shapes.length >= lag + 2 ? mean(shapes.slice(lag).map((shape, i) => likeness(shape, shapes[i]!))) : 0,
  );
  const usual = mean(alike.slice(1, 9));
  const again = (lag: number): number => (lag <= FARTHEST && Number.isInteger(lag) ? alike[lag]! - usual : 0);
  const octaves = beats.length > 1 ? log2((0.5 * (beats.length - 1)) / (beats.at(-1)! - beats[0]!)) : 0;
  return METERS.flatMap((meter) => {
    const unlike = METERS.filter((other) => other % meter !== 0 && meter % other !== 0).map(again);
    return Array.from({ length: meter }, (_, first): BarWay => {
      const places = rows.map((row) => Array.from({ length: meter }, (_, place) => meanAt(row, meter, first + place)));
      const onFirst = places.map(([on]) => on!);
      const besides = places.map(([on, ...others]) => on! - max(...others));
      const middle = places.map((place) => (meter % 2 === 0 ? place[meter / 2]! : 0));
      const second = places.map((place) => (meter > 2 ? place[1]! : 0));
      const last = places.map((place) => place.at(-1)!);
      // Every second bar's first beat says nothing against this one; every second beat does.
      const longer = rows.map((row) => {
        const pair = [meanAt(row, 2 * meter, first), meanAt(row, 2 * meter, first + meter)];
        return max(...pair) - min(...pair);
      });
      return {
        beats: meter,
        first,
        features: [
          ...onFirst,
          ...besides,
          ...middle,
          ...second,
          ...last,
          ...longer,
          again(meter),
          again(2 * meter),
          again(3 * meter),
          again(meter / 2),
          max(...unlike),
          again(meter) - max(...unlike),
          usual,
          octaves,
          Number(meter === 2),
          Number(meter === 3),
          Number(meter === 4),
          Number(meter === 6),
          Number(meter % 2),
        ],
      };
    });
  });
}
