import type { ProjectDocument } from '@hastig/contract';
import { nearestTarget, targetsIn, type EffectTarget, type Target } from '@hastig/core';

/** What an effect is aligned with: one moment near the playhead, or all of a kind. */
export const placings = ['peak', 'playhead', 'cut', 'marker', 'peaks', 'cuts', 'markers'] as const;
export type Placing = (typeof placings)[number];

export const placingOptions: readonly { value: Placing; label: string }[] = [
  { value: 'peak', label: 'Fastest frame' },
  { value: 'playhead', label: 'Playhead' },
  { value: 'cut', label: 'Nearest cut' },
  { value: 'marker', label: 'Nearest marker' },
  { value: 'peaks', label: 'Every fastest frame' },
  { value: 'cuts', label: 'Every cut' },
  { value: 'markers', label: 'Every marker' },
];

/** Whether what an effect is aligned with may have a ramp that it can follow. */
export const mayFollow = (placing: Placing): boolean => placing === 'peak' || placing === 'peaks';

/** Whether an effect keeps its own rise, or is stretched so that it lasts as long as the ramp. */
export type Rise = 'own' | 'ramp';
export const riseOptions: readonly { value: Rise; label: string }[] = [
  { value: 'own', label: 'Original' },
  { value: 'ramp', label: 'Match ramp' },
];

const missing: Record<EffectTarget, string> = {
  peaks: 'No clip here has a speed peak. Add a ramp in Pace first.',
  cuts: 'There are no cuts here.',
  markers: 'There are no markers here.',
};

interface Found {
  targets: Target[];
  /** Why there are none. */
  missing?: string;
}

/** The frames an effect is aligned with, or why there are none. `near` is a frame of what is open. */
export function targetsFor(project: ProjectDocument, containerId: string, placing: Placing, near: number): Found {
  if (placing === 'playhead') return { targets: [{ frame: near }] };
  const kind: EffectTarget =
    placing === 'peak' ? 'peaks' : placing === 'cut' ? 'cuts' : placing === 'marker' ? 'markers' : placing;
  const all = targetsIn(project, containerId, kind);
  const nearest = nearestTarget(all, near);
  if (!nearest) return { targets: [], missing: missing[kind] };
  return { targets: placing === kind ? all : [nearest] };
}
