import type { Marker, Rate } from '@hastig/contract';
import { formatMoment, type SeenMarker, type TimeUnit } from '@hastig/core';
import { useDrag } from '@use-gesture/react';
import { useMemo, useRef, type KeyboardEvent } from 'react';
import { kindWords } from '../../../beats/beat-words';
import { CrowdButton, heldMarker, MarkerButton, stepOf } from '../../../time-view/marker-button';
import { markersInSight } from '../../../time-view/markers-in-sight';
import type { TimeView } from '../../../time-view/use-time-view';
import type { MarkerEdits } from './use-marker-edits';

/** Pixels from one sign to the next: each is a target for a finger. */
const APART = 26;
/** Pixels of the row of signs. */
export const SIGNS = 30;

/** What a marker is called by its kind. */
const kindName = ({ kind = 'hand' }: Marker): string => kindWords[kind];

interface MarkerSignsProps {
  /** In order, at frames (real) of the timeline. */
  markers: readonly SeenMarker[];
  view: TimeView;
  rate: Rate;
  unit: TimeUnit;
  start: number;
  selected: ReadonlySet<string>;
  edits: MarkerEdits;
  onCloser(from: number, to: number): void;
}

/** The signs of markers over a waveform: tapped, dragged, moved by the arrow keys, taken away. */
export function MarkerSigns({ markers, view, rate, unit, start, selected, edits, onCloser }: MarkerSignsProps) {
  const { onChoose, onMove, onRemove } = edits;
  const target = useRef<HTMLDivElement>(null);
  const moving = useRef<SeenMarker | null>(null);
  // The same markers, found by where they stand and by their place in the row: one may be heard several times.
  const placed = useMemo(
    () => markers.map(({ marker, at }, index) => ({ ...marker, at, hold: String(index) })),
    [markers],
  );
  useDrag(
    ({ event, movement: [dx], first, last, tap, shiftKey, altKey }) => {
      if (first) {
        const held = heldMarker(event.target);
        moving.current = held && 'marker' in held ? (markers[Number(held.marker)] ?? null) : null;
        if (held && 'several' in held) onCloser(...held.several);
      }
      const seen = moving.current;
      if (!seen || !last) return;
      if (tap) onChoose(seen, shiftKey);
      else onMove(seen, seen.at + (dx * (view.to - view.from)) / view.width, !altKey);
    },
    { target, filterTaps: true, pointer: { capture: false, keys: false } },
  );
  const onKeyDown = (seen: SeenMarker) => (event: KeyboardEvent) => {
    const by = stepOf(event);
    if (by === 0 && event.key !== 'Enter' && event.key !== 'Delete') return;
    event.preventDefault();
    event.stopPropagation();
    if (by !== 0) onMove(seen, seen.at + by, false);
    else if (event.key === 'Delete') onRemove(seen);
    else onChoose(seen, event.shiftKey);
  };
  const moment = (at: number): string => formatMoment(Math.floor(at + start + 1e-6), rate, unit);
  return (
    <div
      ref={target}
      role="group"
      aria-label="Markers"
      style={{ position: 'absolute', left: 0, right: 0, top: 0, height: SIGNS, touchAction: 'none' }}
    >
      {markersInSight(placed, view, APART).map(({ marker, others, x, to }) => {
        const { hold, at, name, tone, kind } = marker as (typeof placed)[number];
        return others > 0 ? (
          <CrowdButton
            key={`several ${hold}`}
            {...{ x, to, tone, onCloser }}
            from={at}
            name={`${others + 1} markers from ${moment(at)} to ${moment(to)}: zoom in`}
          />
        ) : (
          <MarkerButton
            key={hold}
            {...{ x, tone, hold }}
            name={`${kindName(marker)}${name && ` ${name}`} at ${moment(at)}`}
            size={kind === 'beat' ? 12 : 16}
            selected={selected.has(marker.id)}
            onKeyDown={onKeyDown(markers[Number(hold)]!)}
          />
        );
      })}
    </div>
  );
}
