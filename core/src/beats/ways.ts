import { agentBeats } from './agents';
import { onsetBands, type OnsetEnvelope } from './envelope';
import { doubled, everyNth, halfBeatLater } from './marks';
import { combined } from './onsets';
import { FASTEST, SLOWEST, tempoOver, type TempoPoint } from './tempo';
import { trackBeats } from './track';

/** Tempi that are mistaken for one another: twice and half, three against two, three and a third. */
const RATIOS = [1, 2, 1 / 2, 3 / 2, 2 / 3, 3, 1 / 3];
const LEVELS = [1, 2, 1 / 2];

/** One way to count a piece, and where it comes from. */
export interface Way {
  /** Seconds of each beat, in order. */
  beats: number[];
  /** The agent that counted so, the best first; none where it is a tempo that was heard. */
  agent?: number;
  /** Whether the agent's own beats, not others at its tempo. */
  own: boolean;
}

/** The tempo of beats from one to the next, as the tracker takes it. */
function tempoOf(beats: readonly number[]): TempoPoint[] {
  return beats.slice(1).map((beat, i) => {
    const near = beats.slice(Math.max(0, i - 3), i + 5);
    return { time: beat, period: (near.at(-1)! - near[0]!) / (near.length - 1) };
  });
}

const scaled = (tempo: readonly TempoPoint[], ratio: number): TempoPoint[] =>
  tempo.map(({ time, period }) => ({ time, period: period * ratio }));

/**
 * All ways to count a piece of music that are thought of. Tempi come from the tempo over time and from agents that compete for the
 * onsets, and from notes that change, at all ratios that are mistaken for one another; each is followed through the whole piece; then each of these half a
 * beat later, twice as fast, and every other beat.
 *
 * @param onProgress told what share of the work is done, now and then
 */
export function waysToCount(envelope: OnsetEnvelope, onProgress: (share: number) => void = () => undefined): Way[] {
  const values = combined(envelope);
  const { bands, changes, rate, start, changeLag } = envelope;
  const heard = tempoOver(
    onsetBands.map((band) => bands[band]),
    rate,
    start,
  );
  // Where nothing is struck, chords that change are all there is to count.
  const changed = tempoOver([changes], rate, start + changeLag);
  const [hits, notes] = [
    { values, start },
    { values: changes, start: start + changeLag },
  ];
  const agents = agentBeats(envelope).filter((beats) => beats.length > 4);
  const tempi = [
    ...RATIOS.map((ratio) => ({ of: hits, tempo: scaled(heard, ratio), agent: undefined })),
    ...LEVELS.map((ratio) => ({ of: notes, tempo: scaled(changed, ratio), agent: undefined })),
    ...agents.flatMap((beats, agent) =>
      LEVELS.map((ratio) => ({ of: hits, tempo: scaled(tempoOf(beats), ratio), agent })),
    ),
  ].filter(({ tempo }) => tempo.every(({ period }) => period >= FASTEST && period <= SLOWEST));
  const followed = tempi.map(({ of, tempo, agent }, index): Way => {
    onProgress(0.5 + 0.5 * (index / tempi.length));
    return { beats: trackBeats(of.values, rate, of.start, tempo), agent, own: false };
  });
  const ways = [...followed, ...agents.map((beats, agent): Way => ({ beats, agent, own: true }))];
  const others = ways.flatMap(({ beats, ...way }): Way[] =>
    [halfBeatLater(beats), doubled(beats), everyNth(beats, 2, 0), everyNth(beats, 2, 1)].map((one) => ({
      ...way,
      own: false,
      beats: one,
    })),
  );
  return [...ways, ...others].filter(({ beats }) => beats.length > 4 && isPlausible(beats));
}

function isPlausible(beats: readonly number[]): boolean {
  const period = (beats.at(-1)! - beats[0]!) / (beats.length - 1);
  return period >= 0.8 * FASTEST && period <= 1.3 * SLOWEST;
}
