import type { MarkerTone } from '@hastig/contract';

/**
 * The part of OpenTimelineIO's JSON that is written and read here. The names and fields of its schemas (Timeline.1, Stack.1,
 * Track.1, Clip.2, Gap.1, Marker.2, LinearTimeWarp.1, FreezeFrame.1, ExternalReference.1, TimeRange.1, RationalTime.1) are
 * from memory of the published schema documents.
 */
export interface OtioObject {
  OTIO_SCHEMA: string;
  [field: string]: unknown;
}

/** Our own key in `metadata`, under which what OpenTimelineIO has no schema for is kept. */
export const OWN_KEY = 'hastig';

interface OtioTime extends OtioObject {
  rate: number;
  value: number;
}

export function time(value: number, rate: number): OtioTime {
  return { OTIO_SCHEMA: 'RationalTime.1', rate, value };
}

export function range(start: OtioTime, duration: OtioTime): OtioObject {
  return { OTIO_SCHEMA: 'TimeRange.1', start_time: start, duration };
}

/** Tones as the colours that OpenTimelineIO names, each once. */
export const markerColours: Readonly<Record<MarkerTone, string>> = {
  oak: 'YELLOW',
  moss: 'GREEN',
  slate: 'BLUE',
  clay: 'ORANGE',
  plum: 'PURPLE',
};
