import type { Clip, ProjectDocument, RetimeMap, Steady } from '@hastig/contract';
import { pictureOf } from '../counting';
import { effectsOn } from '../effects';
import { compile, positionAt } from '../retime';
import { steadied, type SteadyPath } from '../steady';
import { findSource } from '../timeline/lookup';

/** Moments of a clip by which is told which positions of its source it shows. */
const LOOKS = 64;

/** The positions of its source that a clip shows. */
function shownPositions({ shown }: Clip, map: RetimeMap): { from: number; to: number } {
  const end = Math.min(shown.from + shown.frames, compile(map).length);
  const positions = Array.from({ length: LOOKS + 1 }, (_, n) =>
    positionAt(map, shown.from + ((end - shown.from) * n) / LOOKS),
  );
  const within = (position: number): number => Math.min(map.sourceFrames, Math.max(0, position));
  return { from: within(Math.floor(Math.min(...positions))), to: within(Math.ceil(Math.max(...positions)) + 1) };
}

/** How the effect of a clip that steadies it does so; undefined where there is none, or its track is not there. */
export function clipSteadied(
  project: ProjectDocument,
  clip: Clip,
  map: RetimeMap,
  effect = effectsOn(clip.effects).find((one): one is Steady => one.kind === 'steady'),
): SteadyPath | undefined {
  const source = effect && clip.of.kind === 'source' ? findSource(project, clip.of.id) : undefined;
  const size = source?.tracks && pictureOf(source.facts);
  return effect && size ? steadied(effect, source!.tracks!, size, shownPositions(clip, map)) : undefined;
}

export const steadyOf = (project: ProjectDocument, clip: Clip, map: RetimeMap): SteadyPath | undefined =>
  clip.effects ? clipSteadied(project, clip, map) : undefined;
