import { sameClipSettings } from '../timeline/clip-settings';
import type { Comparing } from './compared';
import type { Program, ProgramBody, ProgramItem, ProgramTrack } from './program';

/**
 * Some items of a track: those that it had before from an index on, later by some frames; or others.
 */
type ItemRun = { from: number; count: number; later: number } | { items: ProgramItem[] };

interface BodyUpdate extends Omit<ProgramBody, 'tracks'> {
  tracks: (Omit<ProgramTrack, 'items'> & { runs: ItemRun[] })[];
}

/** What leads from one program to the next: what both have alike is only named. */
export interface ProgramUpdate extends BodyUpdate {
  groups: Record<string, BodyUpdate>;
  frame: Program['frame'];
  /** Null where they are as before. */
  sizes: Program['sizes'] | null;
  master: Program['master'];
  exposures: Program['exposures'];
  effects: Program['effects'];
  /** Null where they are as before. */
  steadies: Program['steadies'] | null;
  points: Program['points'] | null;
  compared: (Comparing & { a: ProgramUpdate; b: ProgramUpdate }) | undefined;
}

const nothing: ProgramBody = { rate: { num: 1, den: 1 }, length: 0, tracks: [] };

/**
 * What has to be told so that somebody who has one program gets the next: while something is dragged, one comes with every
 * animation frame, and thousands of clips are as they were, or only later.
 *
 * @param before undefined where nothing was told yet
 */
export function programUpdate(before: Program | undefined, after: Program): ProgramUpdate {
  const { sizes, steadies, points, frame, master, exposures, effects, compared } = after;
  const groups = Object.entries(after.groups).map(([id, body]) => [id, bodyUpdate(before?.groups[id], body)] as const);
  return {
    ...bodyUpdate(before, after),
    groups: Object.fromEntries(groups),
    ...{ frame, master, exposures, effects },
    sizes: before?.sizes === sizes ? null : sizes,
    steadies: before && before.steadies === steadies ? null : steadies,
    points: before && before.points === points ? null : points,
    compared: compared && {
      ...compared,
      a: programUpdate(before?.compared?.a, compared.a),
      b: programUpdate(before?.compared?.b, compared.b),
    },
  };
}

function bodyUpdate(before: ProgramBody = nothing, { rate, length, tracks }: ProgramBody): BodyUpdate {
  return {
    ...{ rate, length },
    tracks: tracks.map(({ items, ...track }, index) => ({
      ...track,
      runs: runsOf(before.tracks[index]?.items ?? [], items),
    })),
  };
}

const sameStretch = (a: ProgramItem['steadyOver'], b: ProgramItem['steadyOver']): boolean =>
  a?.by === b?.by && a?.from === b?.from && a?.to === b?.to;

const sameSmoothed = (a: ProgramItem['smoothed'] = {}, b: ProgramItem['smoothed'] = {}): boolean =>
  Object.keys(a).length === Object.keys(b).length && Object.entries(a).every(([id, key]) => b[id] === key);

// Alike but for where it lies.
const alike = (a: ProgramItem, b: ProgramItem): boolean =>
  a.map === b.map &&
  a.frames === b.frames &&
  a.at === b.at &&
  a.heard === b.heard &&
  a.steady === b.steady &&
  sameStretch(a.steadyOver, b.steadyOver) &&
  sameSmoothed(a.smoothed, b.smoothed) &&
  sameClipSettings(a, b) &&
  a.faded?.from === b.faded?.from &&
  a.faded?.frames === b.faded?.frames &&
  a.of.id === b.of.id &&
  a.of.kind === b.of.kind;

function runsOf(before: readonly ProgramItem[], after: readonly ProgramItem[]): ItemRun[] {
  let head = 0;
  while (head < before.length && before[head] === after[head]) head++;
  const runs: ItemRun[] = head > 0 ? [{ from: 0, count: head, later: 0 }] : [];
  if (head === after.length) return runs;
  const places = new Map<string, number>();
  for (let index = head; index < before.length; index++) places.set(before[index]!.clipId, index);
  for (const item of after.slice(head)) {
    const index = places.get(item.clipId) ?? -1;
    const old = before[index];
    const last = runs.at(-1);
    if (!old || !alike(old, item)) {
      if (last && 'items' in last) last.items.push(item);
      else runs.push({ items: [item] });
      continue;
    }
    const later = item.from - old.from;
    if (last && 'count' in last && last.from + last.count === index && last.later === later) last.count++;
    else runs.push({ from: index, count: 1, later });
  }
  return runs;
}

/** The program after an update, made of the one before it. What is alike is the same object, so what was worked out for it holds. */
export function updatedProgram(before: Program | undefined, update: ProgramUpdate): Program {
  const steadies = update.steadies === null ? before?.steadies : update.steadies;
  const points = update.points === null ? before?.points : update.points;
  const { compared } = update;
  const groups = Object.entries(update.groups).map(
    ([id, body]) => [id, updatedBody(before?.groups[id], body)] as const,
  );
  return {
    ...updatedBody(before, update),
    groups: Object.fromEntries(groups),
    ...(update.frame && { frame: update.frame }),
    sizes: update.sizes ?? before?.sizes ?? {},
    ...(update.master && { master: update.master }),
    ...(update.exposures && { exposures: update.exposures }),
    ...(update.effects && { effects: update.effects }),
    ...(steadies && { steadies }),
    ...(points && { points }),
    ...(compared && {
      compared: {
        ...compared,
        a: updatedProgram(before?.compared?.a, compared.a),
        b: updatedProgram(before?.compared?.b, compared.b),
      },
    }),
  };
}

function updatedBody(before: ProgramBody = nothing, { rate, length, tracks }: BodyUpdate): ProgramBody {
  return {
    ...{ rate, length },
    tracks: tracks.map(({ runs, ...track }, index) => {
      const old = before.tracks[index]?.items ?? [];
      const items = runs.flatMap((run) => {
        if ('items' in run) return run.items;
        const same = old.slice(run.from, run.from + run.count);
        return run.later === 0 ? same : same.map((item) => ({ ...item, from: item.from + run.later }));
      });
      return { ...track, items };
    }),
  };
}
