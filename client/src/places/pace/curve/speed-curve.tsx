import type { RetimeMap } from '@hastig/contract';
import { formatPercent, holdPins, keysOf, trimDecimals } from '@hastig/core';
import { useLayoutEffect, useState } from 'react';
import { useStore } from 'react-redux';
import { useStage } from '../../../stage/stage-context';
import { useAppDispatch, useSession } from '../../../store/hooks';
import { keysSelected, spanSelected } from '../../../store/session-slice';
import type { RootState } from '../../../store/store';
import { currentTheme } from '../../../ui/theme';
import { sizedContext } from '../../../time-view/use-size';
import type { TimeControl } from '../../../time-view/use-time-view';
import { MapSurfaceView, useMapDrags, useMapSurface, type DragStep, type Point } from '../map-surface';
import { CurveHandles } from './curve-handles';
import { draggedMap, drawnMap, type Grab } from './drag';
import { drawArms, drawCurve } from './draw';
import { MarkerLines, type LineMoment } from '../../../time-view/marker-lines';
import { Playhead } from '../../../time-view/playhead';
import { frameToX, speedsInSight, speedToY, xToFrame, type CurveView } from './scale';

/** What a finger does where there is nothing to grab. */
export type CurveMode = 'scrub' | 'draw' | 'select';

interface SpeedCurveProps {
  clipId: string;
  /** The clip's map in the document. */
  map: RetimeMap;
  /** The map to draw: the document's, or what is being tried out. */
  shown: RetimeMap;
  time: TimeControl;
  mode: CurveMode;
  /** Markers beside the clip: drawn, and what is dragged rests on them. */
  lines: readonly LineMoment[];
  /** A drawn line or a selection is done. */
  onDone(): void;
}

interface Running {
  grab: Grab | null;
  mode: CurveMode;
  map: RetimeMap;
  view: CurveView;
  start: Point;
  stroke: Point[];
  magnets: number[];
}

function grabOf(target: EventTarget | null): Grab | null {
  const element = target instanceof HTMLElement ? target.closest<HTMLElement>('[data-grab]') : null;
  return element ? (JSON.parse(element.dataset.grab!) as Grab) : null;
}

/** The speed curve: seen, scrubbed, and every part of it grabbed and dragged. */
export function SpeedCurve({ clipId, map, shown, time, mode, lines, onDone }: SpeedCurveProps) {
  const dispatch = useAppDispatch();
  const { seek } = useStage();
  const store = useStore<RootState>();
  const { unit, keeps, marks, snap, selectedSpan } = useSession('unit', 'keeps', 'marks', 'snap', 'selectedSpan');
  const [box, setBox] = useState<{ from: Point; to: Point } | null>(null);
  const [heldRange, setHeldRange] = useState<{ low: number; high: number } | null>(null);
  const theme = currentTheme();
  const surface = useMapSurface();
  const { canvasRef, size } = surface;
  const range = heldRange ?? speedsInSight(shown);
  const view: CurveView = { ...time.view, ...range, height: size.height };

  const magnetsNow = (): number[] => {
    const { playhead, marks: now } = store.getState().session;
    return [playhead, now.from, now.to, ...lines.map(({ at }) => at)].filter((frame) => frame !== null);
  };
  const made = (drag: Running, { at, free, oneSided }: DragStep): RetimeMap | null => {
    const { view: seen, start, magnets } = drag;
    if (drag.grab) {
      const state = { view: seen, start, now: at, free: free || !snap, oneSided, keeps, magnets };
      return draggedMap(drag.map, drag.grab, state);
    }
    drag.stroke.push(at);
    const drawn = drawnMap(drag.map, seen, drag.stroke, keeps);
    return drawn ? holdPins(drag.map, drawn) : null;
  };

  useMapDrags<Running>(surface, clipId, map, time, true, {
    begin: (target, at, boxed) => {
      const grab = mode === 'draw' ? null : grabOf(target);
      const doing = boxed && !grab ? 'select' : mode;
      if (grab && grab.kind !== 'keys' && grab.kind !== 'handle') dispatch(spanSelected(grab.index));
      if (grab || doing === 'draw') {
        setHeldRange(range);
        time.hold(true);
      } else if (doing === 'scrub') dispatch(spanSelected(null));
      return { grab, mode: doing, map, view, start: at, stroke: [at], magnets: magnetsNow() };
    },
    step: (drag, step) => {
      const { at, first, tap } = step;
      if (tap) {
        if (!drag.grab && drag.mode === 'scrub') seek(xToFrame(view, at.x));
        return undefined;
      }
      if (first && drag.grab) return undefined;
      if (!drag.grab && drag.mode === 'scrub') seek(xToFrame(view, at.x));
      else if (!drag.grab && drag.mode === 'select') setBox({ from: drag.start, to: at });
      else {
        const result = made(drag, step);
        return { result, words: describe(drag, result) };
      }
      return undefined;
    },
    finish: (drag, _result, at) => {
      if (!drag.grab && drag.mode === 'select') dispatch(keysSelected(keysInBox(shown, view, drag.start, at)));
      if (!drag.grab && mode !== 'scrub') onDone();
      return labelOf(drag.grab);
    },
    onEnd: () => {
      setHeldRange(null);
      setBox(null);
    },
  });

  useLayoutEffect(() => {
    // In the browser's own timeline, which tells time at work from time spent waiting for a core.
    performance.mark('hastig:curve-begins');
    const context = sizedContext(canvasRef.current!, size);
    drawCurve(context, shown, view, unit, marks);
    if (selectedSpan !== null) drawArms(context, shown, view, selectedSpan);
    performance.mark('hastig:curve-ends');
    performance.clearMarks('hastig:curve-begins');
    performance.clearMarks('hastig:curve-ends');
  }, [shown, view.from, view.to, view.low, view.high, size, unit, theme, marks, selectedSpan]);

  return (
    <MapSurfaceView
      surface={surface}
      label="Speed curve"
      name="curve"
      className="min-h-[120px] flex-1"
      cursor={mode === 'scrub' ? 'default' : 'crosshair'}
    >
      <MarkerLines moments={lines} view={time.view} height={size.height} />
      <CurveHandles clipId={clipId} map={shown} view={view} />
      <Playhead view={view} />
      {box ? <SelectionBox {...box} /> : null}
    </MapSurfaceView>
  );
}

/** The keys whose place or speeds lie in a box. */
function keysInBox(map: RetimeMap, view: CurveView, a: Point, b: Point): number[] {
  const inside = (value: number, one: number, other: number): boolean =>
    value >= Math.min(one, other) && value <= Math.max(one, other);
  return keysOf(map)
    .filter(({ output, speedIn, speedOut }) => {
      if (!inside(frameToX(view, output), a.x, b.x)) return false;
      const ys = [speedIn, speedOut].filter((speed) => speed !== undefined).map((speed) => speedToY(view, speed));
      return ys.some((y) => inside(y, a.y, b.y)) || inside((a.y + b.y) / 2, Math.min(...ys), Math.max(...ys));
    })
    .map(({ index }) => index);
}

function SelectionBox({ from, to }: { from: Point; to: Point }) {
  return (
    <div
      aria-hidden
      style={{
        position: 'absolute',
        left: Math.min(from.x, to.x),
        top: Math.min(from.y, to.y),
        width: Math.abs(to.x - from.x),
        height: Math.abs(to.y - from.y),
        border: '1px dashed rgb(var(--bone))',
        background: 'rgb(var(--bone) / 0.08)',
        pointerEvents: 'none',
      }}
    />
  );
}

function labelOf(grab: Grab | null): string {
  if (!grab) return 'draw the speed';
  const labels = {
    level: 'drag the speed',
    ramp: 'move a ramp',
    key: 'move a key',
    joint: 'drag a key',
    handle: 'shape a ramp',
    keys: 'move keys',
    edge: 'widen a ramp',
  };
  return labels[grab.kind];
}

function describe({ grab }: Running, result: RetimeMap | null): string {
  if (!result) return '';
  if (!grab) return 'drawing';
  const span = result.spans[Math.min(grab.index, result.spans.length - 1)]!;
  const frames = `${trimDecimals(span.frames, 1)} frames`;
  if (grab.kind === 'keys') return `${grab.keys.length} keys`;
  if (grab.kind === 'joint') {
    const speed = grab.half === 'in' ? result.spans[grab.index - 1]!.y[3] : span.y[0];
    return span.of === 'speed' ? formatPercent(speed) : frames;
  }
  return grab.kind === 'level' ? `${formatPercent(span.y[0])} · ${frames}` : frames;
}
