import { rateToNumber } from '../time';
import { compile, frameCount, positionAt, speedAt, timesAt, type CompiledMap } from '../retime';
import type { SoundRun } from '../sound';
import { itemAt, type Program, type ProgramBody, type ProgramItem } from './program';

/** A map on the way from the output to a source, with what is taken from the time before it is asked. */
interface Link {
  ready: CompiledMap;
  offset: number;
}

interface AudibleSource {
  sourceId: string;
  /** The outermost first. */
  links: Link[];
}

const cutsOf = new WeakMap<ProgramBody, number[]>();

/** Two cuts closer than this (frames) are one. */
const SAME = 1e-7;

/**
 * Output times at which something else begins to be heard: edges of items, jumps inside their maps, and, through the
 * maps of groups, the cuts inside those. Rising; the first is 0 and the last the end.
 */
function cuts(program: Program, body: ProgramBody): number[] {
  const known = cutsOf.get(body);
  if (known) return known;
  const found = [0, body.length];
  for (const item of body.tracks.flatMap(({ items }) => items)) {
    const end = item.from + item.frames;
    found.push(item.from, end, item.from + frameCount(item.map) - item.at);
    const add = (time: number): void => {
      const t = time - item.at + item.from;
      if (t > item.from && t < end) found.push(t);
    };
    const ready = compile(item.map);
    item.map.spans.forEach((span, index) => span.jump && add(ready.times[index]!));
    const inner = item.of.kind === 'group' ? program.groups[item.of.id] : undefined;
    for (const cut of inner ? cuts(program, inner) : []) {
      for (const { from, to } of timesAt(item.map, cut)) [from, to].forEach(add);
    }
  }
  const rising = found.filter((t) => t >= 0 && t <= body.length).sort((a, b) => a - b);
  const single = rising.filter((t, index) => index === 0 || t - rising[index - 1]! > SAME);
  cutsOf.set(body, single);
  return single;
}

function audibleAt(program: Program, body: ProgramBody, t: number): AudibleSource[] {
  return body.tracks.flatMap((track) => {
    const item = itemAt(track, t);
    return item?.heard ? heardOf(program, item, t) : [];
  });
}

function heardOf(program: Program, item: ProgramItem, t: number): AudibleSource[] {
  const link: Link = { ready: compile(item.map), offset: item.from - item.at };
  const time = t - link.offset;
  if (time >= link.ready.length) return [];
  if (item.of.kind === 'source') return [{ sourceId: item.of.id, links: [link] }];
  const body = program.groups[item.of.id];
  const position = positionAt(link.ready, time);
  // Where a group is held at its edge it is silent, as a source is.
  if (!body || position < 0 || position >= body.length) return [];
  return audibleAt(program, body, position).map(({ sourceId, links }) => ({ sourceId, links: [link, ...links] }));
}

function through(links: readonly Link[], t: number): number {
  return links.reduce((time, { ready, offset }) => positionAt(ready, time - offset), t);
}

// Source frames per output frame: the product of what each map passes.
function passing(links: readonly Link[], t: number): number {
  let time = t;
  let rate = 1;
  for (const { ready, offset } of links) {
    rate *= ready.ratio * speedAt(ready, time - offset);
    time = positionAt(ready, time - offset);
  }
  return rate;
}

/** Positions that differ by less than this (source frames) are one, so the sound goes on without a cut. */
const CONTINUOUS = 1e-4;

/**
 * What is heard of a program: stretches of output, each with the source it lets hear and its course through it. Where one
 * goes on in the next as if nothing had been cut, neither fades.
 */
export function soundRuns(program: Program): SoundRun[] {
  const perSecond = rateToNumber(program.rate);
  const times = cuts(program, program);
  let before: { source: AudibleSource; run: SoundRun }[] = [];
  const runs: SoundRun[] = [];
  for (let index = 0; index + 1 < times.length; index++) {
    const [from, to] = [times[index]!, times[index + 1]!];
    const now = audibleAt(program, program, (from + to) / 2).map((audible) => {
      const { links, sourceId } = audible;
      const goesOn = before.find(
        (one) =>
          one.source.sourceId === sourceId &&
          Math.abs(through(one.source.links, from - SAME) - through(links, from + SAME)) < CONTINUOUS,
      );
      const run: SoundRun = {
        sourceId,
        from: from / perSecond,
        to: to / perSecond,
        fadeIn: !goesOn,
        fadeOut: true,
        frameAt: (seconds) => through(links, seconds * perSecond),
        rateAt: (seconds) => passing(links, seconds * perSecond) * perSecond,
      };
      if (goesOn) goesOn.run.fadeOut = false;
      return { source: audible, run };
    });
    runs.push(...now.map(({ run }) => run));
    before = now;
  }
  // The very beginning and end are no cuts: nothing was heard before, and the file ends there.
  for (const run of runs) {
    if (run.from <= 0) run.fadeIn = false;
    if (run.to >= program.length / perSecond) run.fadeOut = false;
  }
  return runs;
}
