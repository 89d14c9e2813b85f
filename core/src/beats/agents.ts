// eslint-disable-next-line @typescript-eslint/triple-slash-reference
/// <reference path="./music-tempo.d.ts" />
import BeatTracking from 'music-tempo/dist/node/BeatTracking.js';
import TempoInduction from 'music-tempo/dist/node/TempoInduction.js';
import type { OnsetEnvelope } from './envelope';
import { findOnsets } from './onsets';

/** Seconds of music that agents are sent through at most: what they cost grows with the square of it. */
const LONGEST = 900;
/** Different tempi that are followed further. */
const MOST = 3;
/** Seconds by which two periods differ at least to be two. */
const DIFFERENT = 0.02;

/**
 * Beats as agents count them that compete for the onsets, each with a tempo of its own: S. Dixon, “Automatic extraction of tempo and
 * beat from expressive performances” (Journal of New Music Research, 2001), in the package `music-tempo`, on our onsets.
 *
 * @returns for each of the best agents the seconds of its beats; none of sound without onsets, or longer than a quarter of an hour
 */
export function agentBeats(envelope: OnsetEnvelope): number[][] {
  if (envelope.bands.low.length > LONGEST * envelope.rate) return [];
  const onsets = findOnsets(envelope);
  if (onsets.length < 4) return [];
  const events = onsets.map(({ time }) => time);
  const scores = onsets.map(({ strength }) => strength);
  const periods = periodsOf(events);
  if (periods.length === 0) return [];
  // They are begun in the first seconds of what sounds.
  const agents = BeatTracking.trackBeat(events, scores, periods, { initPeriod: events[0]! + 5 });
  const found: { period: number; beats: number[] }[] = [];
  for (const agent of agents.toSorted((a, b) => b.score - a.score)) {
    if (found.length === MOST) break;
    if (found.some(({ period }) => Math.abs(period - agent.beatInterval) < DIFFERENT)) continue;
    agent.fillBeats();
    const beats = agent.events.filter((beat, i, all) => beat >= 0 && (i === 0 || beat - all[i - 1]! > 0.1));
    found.push({ period: agent.beatInterval, beats });
  }
  return found.map(({ beats }) => beats);
}

/** Seconds of the beats that times between onsets speak for. */
function periodsOf(events: number[]): number[] {
  try {
    const clusters = TempoInduction.mergeClusters(TempoInduction.processRhythmicEvents(events));
    return TempoInduction.createTempoList({ ...clusters, ...TempoInduction.calculateScore(clusters) });
  } catch {
    // The package throws where no two onsets lie within two and a half seconds: an organ, a string that swells.
    return [];
  }
}
