import type { OnsetEnvelope } from './envelope';
import { featuresOf, prepare, strengthOn } from './features';
import { sameBeats, tempoOfBeats } from './same-beats';
import { waysToCount, type Way } from './ways';

/** A way to count a piece with what is known of it. */
interface Candidate {
  beats: number[];
  /** Beats a minute, of most of it. */
  tempo: number;
  /** What the judge is told, see `featuresOf` and `agreementOf`. */
  features: number[];
}

/** Ratios of tempi that say something of each other, and how near they are to count as one, as a part. */
const RATIOS = [1, 2, 1 / 2, 3 / 2, 2 / 3] as const;
const SAME_TEMPO = 0.04;
/** Ways of which more beats than this share are the same are judged as one. */
const TOLD_APART = 0.97;
/** Agents that are told apart. */
const AGENTS = 3;

interface Found extends Way {
  tempo: number;
  strength: number;
}

/** Where a way comes from, and how many others agree with it, or with its tempo. */
function agreementOf(way: Found, all: readonly Found[]): number[] {
  const share = (agrees: (other: Found) => boolean): number => all.filter(agrees).length / all.length;
  return [
    ...Array.from({ length: AGENTS }, (_, agent) => Number(way.agent === agent)),
    Number(way.own),
    share((other) => sameBeats(way.beats, other.beats)),
    ...RATIOS.map((ratio) => share((other) => Math.abs(other.tempo / way.tempo / ratio - 1) < SAME_TEMPO)),
  ];
}

/**
 * The ways to count a piece that differ, each with what is known of it.
 *
 * @param onProgress told what share of the work is done, now and then
 */
export function candidatesOf(
  envelope: OnsetEnvelope,
  onProgress: (share: number) => void = () => undefined,
): Candidate[] {
  const heard = prepare(envelope);
  const ways = waysToCount(envelope, (share) => onProgress(0.8 * share)).map((way): Found => ({
    ...way,
    tempo: tempoOfBeats(way.beats),
    strength: strengthOn(heard, way.beats),
  }));
  const apart: Found[] = [];
  for (const way of ways.toSorted((a, b) => b.strength - a.strength)) {
    if (!apart.some(({ beats }) => sameBeats(way.beats, beats, TOLD_APART))) apart.push(way);
  }
  return apart.map((way, index) => {
    onProgress(0.8 + 0.2 * (index / apart.length));
    return {
      beats: way.beats,
      tempo: way.tempo,
      features: [...featuresOf(heard, way.beats), ...agreementOf(way, ways)],
    };
  });
}
