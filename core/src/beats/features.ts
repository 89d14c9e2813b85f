import { onsetBands, type OnsetEnvelope } from './envelope';
import { mean, median } from './mean';
import { combined, findOnsets, usualPeak } from './onsets';
import { beatShapes, likeness } from './beat-shapes';

// Looked up once: the loops below run for every value of an envelope.
const { abs, exp, log, log2, max, min, round, sqrt } = Math;

/** Seconds to each side within which a hit is at a moment. */
const NEAR = 0.03;
/** A hit counts no more than so many times what is usual in its band. */
const MOST = 1.5;
/** Places in a beat at which hits are looked for. */
const PLACES = [0, 1 / 6, 1 / 4, 1 / 3, 1 / 2, 2 / 3, 3 / 4, 5 / 6] as const;
/** Beats after which the sound may come again. */
const LAGS = [1, 2, 3, 4, 6, 8] as const;
/** Seconds before and after a beat whose levels are compared. */
const AROUND = 0.1;
/** Centres of the tempi a reading is told to be near, in octaves from 120 beats a minute, and how wide each is. */
const TEMPI = [-1.25, -1, -0.75, -0.5, -0.25, 0, 0.25, 0.5, 0.75, 1, 1.25] as const;
const TEMPO_WIDTH = 0.2;

/** Rows of values prepared once for all readings of a piece. */
interface Heard {
  envelope: OnsetEnvelope;
  /** For each band how strong the strongest hit within 30 ms is, 0 to 1.5 times what is usual; then how much notes change, likewise. */
  near: Float32Array[];
  /** All bands together. */
  combined: Float32Array;
  /** For each band running sums of its levels. */
  levels: Float64Array[];
  /** Hits, in order. */
  onsets: { time: number; strength: number }[];
}

/** The greatest of the values within so many to each side of each, at most so much, as parts of what is usual. */
function nearby(values: Float32Array, reach: number): Float32Array {
  const usual = usualPeak(values);
  const out = new Float32Array(values.length);
  if (!(usual > 0)) return out;
  for (let i = 0; i < values.length; i++) {
    let most = 0;
    for (let at = max(0, i - reach), to = min(values.length - 1, i + reach); at <= to; at++) {
      if (values[at]! > most) most = values[at]!;
    }
    out[i] = min(MOST, most / usual);
  }
  return out;
}

function sumsOf(values: Float32Array): Float64Array {
  const sums = new Float64Array(values.length + 1);
  for (let i = 0; i < values.length; i++) sums[i + 1] = sums[i]! + values[i]!;
  return sums;
}

/** What readings of a piece are measured by. */
export function prepare(envelope: OnsetEnvelope): Heard {
  const reach = round(NEAR * envelope.rate);
  return {
    envelope,
    near: [...onsetBands.map((band) => nearby(envelope.bands[band], reach)), nearby(envelope.changes, reach)],
    combined: combined(envelope),
    levels: onsetBands.map((band) => sumsOf(envelope.levels[band])),
    onsets: findOnsets(envelope),
  };
}

/** How strong the hit of a row is at a moment. */
function strengthAt({ envelope, near }: Heard, row: number, time: number): number {
  const lag = row === onsetBands.length ? envelope.changeLag : 0;
  return near[row]![round((time - envelope.start - lag) * envelope.rate)] ?? 0;
}

/** The mean strength of hits just on moments, to the value: what lies 10 ms beside them says how exactly they are placed. */
export function strengthOn({ envelope, combined: values }: Heard, beats: readonly number[]): number {
  return mean(
    beats.map((beat) => {
      const at = round((beat - envelope.start) * envelope.rate);
      return max(values[at - 1] ?? 0, values[at] ?? 0, values[at + 1] ?? 0);
    }),
  );
}

/** By how much a band is louder just after beats than just before, as the logarithm. */
function riseOn({ envelope, levels }: Heard, band: number, beats: readonly number[]): number {
  const sums = levels[band]!;
  const reach = round(AROUND * envelope.rate);
  const last = sums.length - 1;
  return mean(
    beats.map((beat) => {
      const at = min(last, max(0, round((beat - envelope.start - envelope.levelLag) * envelope.rate)));
      const after = sums[min(last, at + reach)]! - sums[at]!;
      const before = sums[at]! - sums[max(0, at - reach)]!;
      return log((after + 1e-4) / (before + 1e-4));
    }),
  );
}

/** What share of the hits that are heard lies on a grid of so many parts of a beat, by their strength. */
function explained({ onsets }: Heard, beats: readonly number[], parts: number): number {
  let [on, all] = [0, 0];
  let next = 0;
  for (const { time, strength } of onsets) {
    while (next + 1 < beats.length && beats[next + 1]! <= time) next++;
    const from = beats[next]!;
    const to = beats[next + 1];
    if (to === undefined || time < from) continue;
    const place = ((time - from) / (to - from)) * parts;
    all += strength;
    if (abs(place - round(place)) * ((to - from) / parts) <= NEAR) on += strength;
  }
  return all > 0 ? on / all : 0;
}

/**
 * What is known of one way to count a piece: how strong hits of each band are on beats and at places between them, how much the
 * notes change and the level rises there, how every second beat differs, after how many beats the sound comes again, how evenly
 * beats lie, and the tempo.
 *
 * @param beats seconds, five or more
 * @returns numbers of about 0 to 1, always as many
 */
export function featuresOf(heard: Heard, beats: readonly number[]): number[] {
  const { envelope, near } = heard;
  const rows = near.map((_, row) => row);
  const strengths = PLACES.map((share) => {
    const moments = beats.slice(0, -1).map((beat, i) => beat + share * (beats[i + 1]! - beat));
    return rows.map((row) => moments.map((moment) => strengthAt(heard, row, moment)));
  });
  const every = (n: number) =>
    rows.map((row) => {
      const on = strengths[0]![row]!;
      const means = Array.from({ length: n }, (_, first) => mean(on.filter((_, i) => i % n === first)));
      return max(...means) - min(...means);
    });
  // What lies on the first, second … of so many beats, the first being the one with the most bass: a kick and a snare in turn.
  const inTurn = (n: number): number[] => {
    const places = Array.from({ length: n }, (_, place) =>
      rows.map((row) => mean(strengths[0]![row]!.filter((_, i) => i % n === place))),
    );
    const first = places.reduce((best, place, i) => (place[0]! > places[best]![0]! ? i : best), 0);
    return places.flatMap((_, i) => places[(first + i) % n]!);
  };
  const shapes = beatShapes(envelope, beats);
  const again = LAGS.map((lag) =>
    shapes.length >= lag + 4 ? mean(shapes.slice(lag).map((shape, i) => likeness(shape, shapes[i]!))) : 0,
  );
  const periods = beats.slice(1).map((beat, i) => beat - beats[i]!);
  const period = median(periods);
  const uneven = mean(periods.slice(1).map((one, i) => abs(log(one / periods[i]!))));
  const wide = sqrt(mean(periods.map((one) => log(one / period) ** 2)));
  const octaves = log2(0.5 / period);
  return [
    ...strengths.flatMap((place) => place.map((row) => mean(row))),
    ...onsetBands.map((_, band) => riseOn(heard, band, beats)),
    ...every(2),
    ...every(3),
    ...every(4),
    ...inTurn(2),
    ...inTurn(4),
    ...again,
    10 * uneven,
    5 * wide,
    octaves,
    ...TEMPI.map((centre) => exp(-0.5 * ((octaves - centre) / TEMPO_WIDTH) ** 2)),
    ...[1, 2, 3, 4].map((parts) => explained(heard, beats, parts)),
    mean(strengths[0]!.slice(0, 3).reduce<number[]>((sum, row) => row.map((value, i) => max(sum[i] ?? 0, value)), [])),
  ];
}
