import { onsetBands, type OnsetBand, type OnsetEnvelope } from './envelope';
import { mean } from './mean';
import { usualPeak } from './onsets';
import { tempoPreference } from './tempo';

/** How much a hit in a band says that a beat is there: bass and drums carry it, hats also lie between. */
const weights: Record<OnsetBand, number> = { low: 1.2, mid: 1, high: 0.5 };
/** Seconds to each side within which a hit is on a beat. */
const ON_BEAT = 0.03;
/** A hit counts no more than so many times what is usual in its band. */
const MOST = 1.2;
/** How much hits half way between beats, and at thirds, speak against them. */
const HALVES: Record<OnsetBand, number> = { low: 1.6, mid: 0.4, high: 0.3 };
const THIRDS = 0.4;
/** How strongly beats that lie evenly are preferred. */
const EVEN = 4;

/**
 * How well beats fit a piece of music, for comparing one set with another: how strong the hits on them are beside those half way
 * between and at thirds, how evenly they lie, and how readily people tap at such a tempo.
 */
export function judgeBeats({ bands, rate, start }: OnsetEnvelope, beats: readonly number[]): number {
  if (beats.length < 4) return 0;
  const between = (share: number): number[] => beats.slice(1).map((beat, i) => beats[i]! + share * (beat - beats[i]!));
  const [halves, thirds] = [between(1 / 2), [...between(1 / 3), ...between(2 / 3)]];
  let on = 0;
  let off = 0;
  for (const band of onsetBands) {
    const values = bands[band];
    const usual = usualPeak(values);
    if (!(usual > 0)) continue;
    const strengthAt = (time: number): number => {
      const [from, to] = [(time - ON_BEAT - start) * rate, (time + ON_BEAT - start) * rate];
      let most = 0;
      for (let i = Math.max(0, Math.round(from)); i <= Math.min(values.length - 1, to); i++)
        most = Math.max(most, values[i]!);
      return Math.min(MOST, most / usual);
    };
    on += weights[band] * mean(beats.map(strengthAt));
    off += weights[band] * (HALVES[band] * mean(halves.map(strengthAt)) + THIRDS * mean(thirds.map(strengthAt)));
  }
  const periods = beats.slice(1).map((beat, i) => beat - beats[i]!);
  const uneven = mean(periods.slice(1).map((period, i) => Math.abs(Math.log(period / periods[i]!))));
  const typical = periods.toSorted((a, b) => a - b)[periods.length >> 1]!;
  return (on - off) * tempoPreference(typical) * Math.exp(-EVEN * uneven);
}
