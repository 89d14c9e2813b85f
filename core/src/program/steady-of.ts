import type { Clip, ProjectDocument, RetimeMap, Smooth, Steady } from '@hastig/contract';
import { effectsOn, isSteadying } from '../effects';
import { compile, positionAt } from '../retime';
import { steadied, type SteadyPath, type UsedPositions } from '../steady';
import { findSource } from '../timeline/lookup';

/** Moments of a clip by which is told which positions of its source it shows. */
const LOOKS = 64;

/** The positions of its source that a clip shows; of a stretch of it where one is told. */
export function shownPositions({ shown }: Pick<Clip, 'shown'>, map: RetimeMap, over?: Steady['over']): UsedPositions {
  const all = { from: shown.from, to: Math.min(shown.from + shown.frames, compile(map).length) };
  const part = over?.by === 'output' ? { from: Math.max(all.from, over.from), to: Math.min(all.to, over.to) } : all;
  const { from, to } = part.to > part.from ? part : all;
  const positions = Array.from({ length: LOOKS + 1 }, (_, n) => positionAt(map, from + ((to - from) * n) / LOOKS));
  const [least, most] = over?.by === 'source' ? [over.from, over.to - 1] : [0, map.sourceFrames];
  const within = (position: number): number => Math.min(map.sourceFrames, Math.max(0, position));
  const inside = (position: number): number => within(Math.min(most, Math.max(least, position)));
  return {
    from: inside(Math.floor(Math.min(...positions))),
    to: within(inside(Math.ceil(Math.max(...positions))) + 1),
  };
}

/** The effect that steadies a clip: the first that is on. */
const steadyingOf = ({ effects }: Pick<Clip, 'effects'>): Steady | Smooth | undefined =>
  effectsOn(effects).find(isSteadying);

/** How an effect of a clip steadies it; undefined where there is none, or what it needs is not there. */
export function clipSteadied(
  project: ProjectDocument,
  clip: Clip,
  map: RetimeMap,
  effect = steadyingOf(clip),
): SteadyPath | undefined {
  const source = effect && clip.of.kind === 'source' ? findSource(project, clip.of.id) : undefined;
  return effect && source ? steadied(effect, source, shownPositions(clip, map, effect.over)) : undefined;
}

/** The same, and over which stretch, in the words of a program's item. */
export function steadyOf(
  project: ProjectDocument,
  clip: Clip,
  map: RetimeMap,
): { path: SteadyPath; item: { steady: string; steadyOver?: Steady['over'] } } | undefined {
  const effect = clip.effects && steadyingOf(clip);
  const path = effect && clipSteadied(project, clip, map, effect);
  return path && { path, item: { steady: path.key, ...(effect?.over && { steadyOver: effect.over }) } };
}
