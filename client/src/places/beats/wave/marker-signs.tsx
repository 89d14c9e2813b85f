import type { Marker, Rate } from '@hastig/contract';
import { formatMoment, type SeenMarker, type TimeUnit } from '@hastig/core';
import { useDrag } from '@use-gesture/react';
import { useMemo, useRef, type KeyboardEvent } from 'react';
import { markersInSight } from '../../../time-view/markers-in-sight';
import type { TimeView } from '../../../time-view/use-time-view';
import { MarkerSign } from '../../../ui/marker-sign';

/** Pixels from one sign to the next: each is a target for a finger. */
const APART = 26;
/** Pixels of the row of signs. */
export const SIGNS = 30;

const kindWords: Record<NonNullable<Marker['kind']>, string> = {
  hand: 'Marker',
  beat: 'Beat',
  downbeat: 'Downbeat',
  hit: 'Hit',
  moment: 'Moment',
};

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
  onChoose(marker: SeenMarker, more: boolean): void;
  /** Moves a marker to a frame (real). */
  onMove(marker: SeenMarker, to: number, snapping: boolean): void;
  onRemove(marker: SeenMarker): void;
  onCloser(from: number, to: number): void;
}

/** The signs of markers over a waveform: tapped, dragged, moved by the arrow keys, taken away. */
export function MarkerSigns(props: MarkerSignsProps) {
  const { markers, view, rate, unit, start, selected, onChoose, onMove, onRemove, onCloser } = props;
  const target = useRef<HTMLDivElement>(null);
  const held = useRef<SeenMarker | null>(null);
  // The same markers, found by where they stand.
  const placed = useMemo(() => markers.map((seen) => ({ ...seen.marker, at: seen.at, seen })), [markers]);
  useDrag(
    ({ event, movement: [dx], first, last, tap, shiftKey, altKey }) => {
      const element = (event.target as HTMLElement).closest<HTMLElement>('[data-sign], [data-several]');
      if (first) {
        const { sign, several } = element?.dataset ?? {};
        held.current = sign ? (markers[Number(sign)] ?? null) : null;
        if (several) {
          const [from, to] = several.split(',').map(Number) as [number, number];
          onCloser(from, to);
        }
      }
      const seen = held.current;
      if (!seen || !last) return;
      if (tap) onChoose(seen, shiftKey);
      else onMove(seen, seen.at + (dx * (view.to - view.from)) / view.width, !altKey);
    },
    { target, filterTaps: true, pointer: { capture: false, keys: false } },
  );
  const onKeyDown = (seen: SeenMarker) => (event: KeyboardEvent) => {
    const by = ({ ArrowRight: 1, ArrowLeft: -1 }[event.key] ?? 0) * (event.shiftKey ? 10 : 1);
    const meant = by !== 0 || event.key === 'Enter' || event.key === 'Delete';
    if (!meant) return;
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
        const { seen } = marker as (typeof placed)[number];
        const style = { position: 'absolute', left: x - 15, top: 0, width: 30, height: SIGNS } as const;
        const centred = { display: 'flex', alignItems: 'center', justifyContent: 'center' } as const;
        if (others > 0) {
          const closer = (): void => onCloser(marker.at, to + 1);
          return (
            <div
              key={`several ${seen.at}`}
              role="button"
              tabIndex={0}
              aria-label={`${others + 1} markers from ${moment(marker.at)} to ${moment(to)}: zoom in`}
              data-several={`${marker.at},${to + 1}`}
              onKeyDown={(event) => event.key === 'Enter' && closer()}
              style={{ ...style, ...centred }}
            >
              <MarkerSign tone={marker.tone} size={14} />
              <div aria-hidden style={{ marginLeft: -6, opacity: 0.6 }}>
                <MarkerSign tone={marker.tone} size={14} />
              </div>
            </div>
          );
        }
        const chosen = selected.has(marker.id);
        return (
          <div
            key={`${marker.id} ${seen.at}`}
            role="button"
            tabIndex={0}
            aria-pressed={chosen}
            aria-label={`${kindName(marker)}${marker.name ? ` ${marker.name}` : ''} at ${moment(seen.at)}`}
            data-sign={markers.indexOf(seen)}
            onKeyDown={onKeyDown(seen)}
            style={{ ...style, ...centred }}
          >
            <div
              style={{
                ...centred,
                width: 24,
                height: 24,
                borderRadius: 6,
                outline: chosen ? '2px solid rgb(var(--bone))' : 'none',
              }}
            >
              <MarkerSign tone={marker.tone} size={marker.kind === 'beat' ? 12 : 16} />
            </div>
          </div>
        );
      })}
    </div>
  );
}
