import type { Container, Marker, Rate } from '@hastig/contract';
import { formatMoment, setMarkers, type TimeUnit } from '@hastig/core';
import { memo, useRef, type KeyboardEvent } from 'react';
import { useDrag } from '@use-gesture/react';
import { ReadyLine } from '../../stage/ready-line';
import { useStage } from '../../stage/stage-context';
import { rearrange } from '../../store/edit';
import { useAppDispatch, useSession } from '../../store/hooks';
import { localPoint } from '../../time-view/use-size';
import { frameToX, xToFrame, type TimeView } from '../../time-view/use-time-view';
import { useStable } from '../../ui/use-stable';
import { CrowdButton, heldMarker, MarkerButton, stepOf } from '../../time-view/marker-button';
import { markersInSight } from '../../time-view/markers-in-sight';

const HEIGHT = 40;
/** Least pixels from one label to the next. */
const ROOM = 92;

/** Frames between two labels: whole seconds and minutes where they fit, else frames. */
function labelStep(view: TimeView, rate: Rate): number {
  const second = Math.round(rate.num / rate.den);
  const steps = [1, 2, 5, 10, ...[1, 2, 5, 10, 30, 60, 120, 300, 600, 1800, 3600].map((seconds) => seconds * second)];
  const least = (ROOM * (view.to - view.from)) / view.width;
  return steps.find((step) => step >= least) ?? steps.at(-1)!;
}

interface RulerProps {
  containerId: string;
  container: Container;
  view: TimeView;
  unit: TimeUnit;
  /** Frame with which the timecode starts. */
  start: number;
  onMarker(marker: Marker): void;
  /** Shows a stretch closer. */
  onCloser(from: number, to: number): void;
}

/** The time axis: the playhead is dragged on it, markers stand on it. */
export function Ruler({ containerId, container, view, unit, start, onMarker, onCloser }: RulerProps) {
  const target = useRef<HTMLDivElement>(null);
  const dispatch = useAppDispatch();
  const { seek } = useStage();
  const { marks, playhead } = useSession('marks', 'playhead');
  const frameAt = (x: number): number => Math.max(0, Math.floor(xToFrame(view, x) + 0.5));
  const moving = useRef<Marker | null>(null);
  const crowd = useRef<[number, number] | null>(null);
  useDrag(
    ({ event, xy, first, last, tap }) => {
      const at = frameAt(localPoint(target.current!, xy).x);
      if (first) {
        const held = heldMarker(event.target);
        moving.current =
          (held && 'marker' in held && container.markers.find((marker) => marker.id === held.marker)) || null;
        crowd.current = held && 'several' in held ? held.several : null;
      }
      const marker = moving.current;
      if (crowd.current) {
        if (last && tap) onCloser(...crowd.current);
      } else if (!marker) seek(at);
      else if (last && tap) onMarker(marker);
      else if (last && marker.at !== at) {
        dispatch(rearrange('move a marker', (now) => setMarkers(now, containerId, [{ ...marker, at }])));
      }
    },
    { target, filterTaps: false, pointer: { capture: false, keys: false } },
  );

  const step = labelStep(view, container.rate);
  const first = Math.ceil(Math.max(0, view.from) / step);
  const labels = Array.from(
    { length: Math.max(0, Math.floor(view.to / step) - first + 1) },
    (_, n) => (first + n) * step,
  );
  const onStep = useStable((marker: Marker, by: number) => {
    const at = Math.max(0, marker.at + by);
    dispatch(rearrange('move a marker', (now) => setMarkers(now, containerId, [{ ...marker, at }])));
  });
  return (
    <div
      ref={target}
      role="group"
      aria-label="Time"
      data-testid="ruler"
      style={{
        position: 'relative',
        height: HEIGHT,
        flex: 'none',
        overflow: 'hidden',
        touchAction: 'none',
        cursor: 'ew-resize',
      }}
    >
      {marks.from !== null || marks.to !== null ? (
        <div
          aria-hidden
          style={{
            position: 'absolute',
            top: 0,
            height: 4,
            left: frameToX(view, marks.from ?? 0),
            width: frameToX(view, marks.to ?? view.to) - frameToX(view, marks.from ?? 0),
            background: 'rgb(var(--bone))',
          }}
        />
      ) : null}
      {labels.map((frame) => (
        <div
          key={frame}
          aria-hidden
          style={{
            position: 'absolute',
            left: frameToX(view, frame),
            bottom: 0,
            height: 18,
            paddingLeft: 4,
            borderLeft: '1px solid rgb(var(--line))',
            font: '11px SplineSansMono_400Regular, monospace',
            color: 'rgb(var(--quiet))',
            whiteSpace: 'nowrap',
            pointerEvents: 'none',
          }}
        >
          {formatMoment(frame + start, container.rate, unit)}
        </div>
      ))}
      <ReadyLine view={view} top={HEIGHT - 3} />
      <MarkersInSight
        {...{ view, unit, start, onMarker, onStep, onCloser }}
        markers={container.markers}
        rate={container.rate}
      />
      <div
        aria-hidden
        style={{
          position: 'absolute',
          left: frameToX(view, playhead) - 1,
          top: 0,
          bottom: 0,
          width: 2,
          background: 'rgb(var(--bone))',
          pointerEvents: 'none',
        }}
      />
    </div>
  );
}

interface MarkersInSightProps extends Pick<RulerProps, 'view' | 'unit' | 'start' | 'onMarker' | 'onCloser'> {
  markers: readonly Marker[];
  rate: Rate;
  onStep(marker: Marker, by: number): void;
}

// The ruler follows the playhead; its markers only change with the view.
const MarkersInSight = memo(function MarkersInSight(props: MarkersInSightProps) {
  const { markers, rate, view, unit, start, onMarker, onStep, onCloser } = props;
  const moment = (at: number): string => formatMoment(at + start, rate, unit);
  return markersInSight(markers, view).map(({ marker, others, x, to }) =>
    others === 0 ? (
      <MarkerOnRuler key={marker.id} {...{ marker, x, onMarker, onStep }} moment={moment(marker.at)} />
    ) : (
      <CrowdButton
        key={`several ${marker.id}`}
        {...{ x, to, onCloser }}
        from={marker.at}
        tone={marker.tone}
        name={`${others + 1} markers from ${moment(marker.at)} to ${moment(to)}: zoom in`}
      />
    ),
  );
});

interface MarkerOnRulerProps {
  marker: Marker;
  x: number;
  moment: string;
  onMarker(marker: Marker): void;
  onStep(marker: Marker, by: number): void;
}

// The ruler follows the playhead: each marker is drawn anew only when it moves.
const MarkerOnRuler = memo(function MarkerOnRuler({ marker, x, moment, onMarker, onStep }: MarkerOnRulerProps) {
  const onKeyDown = (event: KeyboardEvent): void => {
    if (event.key === 'Enter') onMarker(marker);
    const by = stepOf(event);
    if (by === 0) return;
    event.preventDefault();
    event.stopPropagation();
    onStep(marker, by);
  };
  return (
    <MarkerButton
      {...{ x, onKeyDown }}
      name={`Marker ${marker.name || 'unnamed'} at ${moment}`}
      hold={marker.id}
      tone={marker.tone}
    />
  );
});
