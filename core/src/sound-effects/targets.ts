import type { ProjectDocument } from '@hastig/contract';
import { mapOf } from '../timeline/clip-map';
import { layoutOf } from '../timeline/layout';
import { findContainer } from '../timeline/lookup';
import { markersOver } from '../timeline/markers-seen';
import { speedPeaks } from './speed-peaks';

/** What an effect's loudest moment is aligned with. */
export const effectTargets = ['peaks', 'cuts', 'markers'] as const;
export type EffectTarget = (typeof effectTargets)[number];

/** A frame of the timeline that something may be aligned with. */
export interface Target {
  frame: number;
  /** Frame at which the ramp up to it begins, where it is a peak of speed. */
  rampFrom?: number;
}

/** The frames of what is looked at where clips on its picture tracks are fastest, cut, or where markers are seen; in order. */
export function targetsIn(project: ProjectDocument, containerId: string, kind: EffectTarget): Target[] {
  const container = findContainer(project, containerId);
  if (!container) return [];
  if (kind === 'markers') {
    return unlike(markersOver(project, containerId).map(({ at }) => ({ frame: Math.round(at) })));
  }
  const placed = container.tracks
    .filter((track) => track.kind === 'picture')
    .flatMap((track) => layoutOf(project, track))
    .flatMap((item) => (item.clip ? [{ ...item, clip: item.clip }] : []));
  if (kind === 'cuts') {
    // What begins the film is no cut, and what ends it neither.
    const end = placed.reduce((last, { to }) => Math.max(last, to), 0);
    const edges = placed.flatMap(({ from, to }) => [from, to]).filter((frame) => frame > 0 && frame < end);
    return unlike(edges.map((frame) => ({ frame })));
  }
  const peaks = placed.flatMap(({ clip, from }) => {
    const { shown } = clip;
    return speedPeaks(mapOf(project, clip), shown.from, shown.from + shown.frames).map((peak) => ({
      frame: from + peak.frame - shown.from,
      rampFrom: from + peak.rampFrom - shown.from,
    }));
  });
  return unlike(peaks);
}

/** In order, each frame once. */
function unlike(targets: Target[]): Target[] {
  return targets
    .sort((a, b) => a.frame - b.frame)
    .filter(({ frame }, i, all) => i === 0 || frame !== all[i - 1]!.frame);
}

/** The one nearest a frame; undefined of none. */
export function nearestTarget(targets: readonly Target[], frame: number): Target | undefined {
  return targets.reduce<Target | undefined>(
    (best, one) => (!best || Math.abs(one.frame - frame) < Math.abs(best.frame - frame) ? one : best),
    undefined,
  );
}
