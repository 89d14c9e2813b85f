import type { PitchSettings, RetimeMap } from '@hastig/contract';
import { CUT_FADE, type SoundRun, type Voice } from '../sound';
import { rateToNumber } from '../time';
import {
  audibleAt,
  gainsThrough,
  isLevelled,
  passing,
  pitchesAt,
  pitchThrough,
  SAME,
  soundCuts,
  through,
  type AudibleSource,
  type Link,
} from './audible';
import type { Program } from './program';

/** Positions that differ by less than this (source frames) are one, so the sound goes on without a cut. */
const CONTINUOUS = 1e-4;

/** A stretch of output frames that is reached the same way throughout. */
interface Way {
  from: number;
  to: number;
  links: Link[];
}

/** A run while it is put together of its ways. */
interface Growing {
  source: AudibleSource;
  ways: Way[];
  heard: Heard;
  fadeIn: boolean;
  fadeOut: boolean;
  /** Frames past its end, in which it takes turns with what goes on otherwise. */
  lap: number;
}

const isTape = ({ pitch, cents, formants }: PitchSettings): boolean =>
  pitch === 'follows' && cents === 0 && formants === 'shifted';

/** What all is heard with, on the way to a source: its name is empty where nothing was set. */
interface Heard {
  name: string;
  tape: boolean;
}

const PLAIN: Heard = { name: '', tape: true };

function heardAs(links: readonly Link[], t: number): Heard {
  if (links.every(({ item }) => !item.sound)) return PLAIN;
  const pitches = pitchesAt(links, t);
  const keyed = links.map(({ item }) => item.sound?.keys?.cents);
  const tape = pitches.every(isTape) && keyed.every((keys) => !keys);
  const quiet = links.map(({ item }) => item.sound?.quietAbove);
  const freeze = pitches.at(-1)!.freeze;
  if (tape && freeze === 'silent' && quiet.every((one) => one === undefined)) return PLAIN;
  return { name: JSON.stringify([tape ? null : pitches, keyed, quiet, freeze]), tape };
}

/**
 * What is heard of a program: stretches of output, each with the source it lets hear and its course through it. Where one
 * goes on in the next as if nothing had been cut, both are one; where it only sounds otherwise from there on, they take turns.
 */
export function soundRuns(program: Program): SoundRun[] {
  const times = soundCuts(program, program);
  const lap = CUT_FADE * rateToNumber(program.rate);
  let before: Growing[] = [];
  const grown: Growing[] = [];
  for (let index = 0; index + 1 < times.length; index++) {
    const [from, to] = [times[index]!, times[index + 1]!];
    before = audibleAt(program, program, (from + to) / 2).map((source) => {
      const { links, sourceId, track } = source;
      const heard = heardAs(links, (from + to) / 2);
      const goesOn = before.find(
        (one) =>
          one.source.sourceId === sourceId &&
          one.source.track === track &&
          Math.abs(through(one.ways.at(-1)!.links, from - SAME) - through(links, from + SAME)) < CONTINUOUS,
      );
      if (goesOn?.heard.name === heard.name) {
        goesOn.ways.push({ from, to, links });
        return goesOn;
      }
      if (goesOn) goesOn.lap = lap;
      const run = { source, ways: [{ from, to, links }], heard, fadeIn: true, fadeOut: true, lap: 0 };
      grown.push(run);
      return run;
    });
  }
  // The very beginning and end are no cuts: nothing was heard before, and the file ends there.
  for (const run of grown) {
    if (run.ways[0]!.from <= 0) run.fadeIn = false;
    if (run.ways.at(-1)!.to >= program.length) run.fadeOut = false;
  }
  return grown.map((run) => runOf(program, run));
}

const names = new WeakMap<RetimeMap, number>();
let named = 0;

// Maps are told apart by what they are, so that a run is known again in the next program.
function nameOf(map: RetimeMap): number {
  let name = names.get(map);
  if (name === undefined) names.set(map, (name = ++named));
  return name;
}

function runOf(program: Program, { source, ways, heard, fadeIn, fadeOut, lap }: Growing): SoundRun {
  const perSecond = rateToNumber(program.rate);
  const start = ways[0]!.from;
  const linksAt = (t: number): Link[] => {
    let [low, high] = [0, ways.length - 1];
    while (low < high) {
      const middle = (low + high + 1) >> 1;
      if (ways[middle]!.from <= t) low = middle;
      else high = middle - 1;
    }
    return ways[low]!.links;
  };
  const first = ways[0]!.links;
  // In the middle of it: an edge of a part may be missed by a rounding error.
  const pitches = heard === PLAIN ? [] : pitchesAt(first, (start + ways[0]!.to) / 2);
  const key = (): string =>
    JSON.stringify([
      ...[source.sourceId, heard.name, perSecond],
      ways.map(({ links, from }) => [
        from - start,
        ...links.map(({ item, offset }, depth) => [nameOf(item.map), depth === 0 ? offset - start : offset]),
      ]),
    ]);
  const voice: Voice | null = heard.tape
    ? null
    : {
        pitchAt: (seconds, pictureRate) => pitchThrough(linksAt(seconds * perSecond), seconds * perSecond, pictureRate),
        focus: pitches.at(-1)!.focus,
        formantsKept: pitches.some(({ formants }) => formants === 'kept'),
        key: key(),
      };
  return {
    sourceId: source.sourceId,
    track: source.track,
    from: start / perSecond,
    to: (ways.at(-1)!.to + lap) / perSecond,
    fadeIn,
    fadeOut,
    frameAt: (seconds) => through(linksAt(seconds * perSecond), seconds * perSecond),
    rateAt: (seconds) => passing(linksAt(seconds * perSecond), seconds * perSecond) * perSecond,
    voice,
    freeze: pitches.at(-1)?.freeze ?? 'silent',
    quietAbove: heard === PLAIN ? Infinity : Math.min(...first.map(({ item }) => item.sound?.quietAbove ?? Infinity)),
    gainsAt: ways.some(({ links }) => isLevelled(links))
      ? (seconds) => gainsThrough(linksAt(seconds * perSecond), seconds * perSecond)
      : null,
  };
}
