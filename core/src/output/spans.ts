import type { Marker } from '@hastig/contract';

/** A stretch that becomes a file of its own: whole frames, `to` not included. */
export interface OutputSpan {
  from: number;
  to: number;
  /** What it is called, where it is from one marker to the next. */
  name?: string;
}

/**
 * The stretches from each marker to the next, and from the last one to the end; what lies before the first is none. Markers that are
 * at one frame begin one.
 */
export function markerSpans(markers: readonly Pick<Marker, 'at' | 'name'>[], frames: number): OutputSpan[] {
  const starts = markers
    .filter(({ at }) => at < frames)
    .toSorted((a, b) => a.at - b.at)
    .filter(({ at }, index, all) => index === 0 || at !== all[index - 1]!.at);
  return starts.map(({ at, name }, index) => ({
    from: at,
    to: starts[index + 1]?.at ?? frames,
    ...(name && { name }),
  }));
}
