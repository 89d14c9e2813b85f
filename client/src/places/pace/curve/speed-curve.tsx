import type { RetimeMap } from '@hastig/contract';
import { EditRefused, formatPercent, holdPins, keysOf, trimDecimals } from '@hastig/core';
import { useLayoutEffect, useRef, useState } from 'react';
import { View } from 'react-native';
import { useStore } from 'react-redux';
import { useStage } from '../../../stage/stage-context';
import { commitTiming, tryTiming } from '../../../store/edit';
import { useAppDispatch, useSession } from '../../../store/hooks';
import { keysSelected, spanSelected, projectTried } from '../../../store/session-slice';
import type { RootState } from '../../../store/store';
import { currentTheme } from '../../../ui/theme';
import { Bubble, type BubbleProps } from '../../../time-view/bubble';
import { localPoint, sizedContext, useSize } from '../../../time-view/use-size';
import { useTimeGestures, type DragHandler } from '../../../time-view/use-time-gestures';
import type { TimeControl } from '../../../time-view/use-time-view';
import { CurveHandles } from './curve-handles';
import { draggedMap, drawnMap, type Grab } from './drag';
import { drawArms, drawCurve } from './draw';
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
  /** A drawn line or a selection is done. */
  onDone(): void;
}

interface Point {
  x: number;
  y: number;
}

interface Running {
  grab: Grab | null;
  mode: CurveMode;
  map: RetimeMap;
  view: CurveView;
  start: Point;
  stroke: Point[];
  magnets: number[];
  result: RetimeMap | null;
}

function grabOf(target: EventTarget | null): Grab | null {
  const element = target instanceof HTMLElement ? target.closest<HTMLElement>('[data-grab]') : null;
  return element ? (JSON.parse(element.dataset.grab!) as Grab) : null;
}

/** The speed curve: seen, scrubbed, and every part of it grabbed and dragged. */
export function SpeedCurve({ clipId, map, shown, time, mode, onDone }: SpeedCurveProps) {
  const dispatch = useAppDispatch();
  const { seek } = useStage();
  const store = useStore<RootState>();
  const { unit, keeps, marks, snap, selectedSpan } = useSession('unit', 'keeps', 'marks', 'snap', 'selectedSpan');
  const [bubble, setBubble] = useState<BubbleProps | null>(null);
  const [box, setBox] = useState<{ from: Point; to: Point } | null>(null);
  const [heldRange, setHeldRange] = useState<{ low: number; high: number } | null>(null);
  const running = useRef<Running | null>(null);
  const canvas = useRef<HTMLCanvasElement>(null);
  const overlay = useRef<HTMLDivElement>(null);
  const size = useSize(overlay);
  const theme = currentTheme();
  const range = heldRange ?? speedsInSight(shown);
  const view: CurveView = { ...time.view, ...range, height: size.height };

  useLayoutEffect(() => {
    // In the browser's own timeline, which tells time at work from time spent waiting for a core.
    performance.mark('hastig:curve-begins');
    const context = sizedContext(canvas.current!, size);
    drawCurve(context, shown, view, unit, marks);
    if (selectedSpan !== null) drawArms(context, shown, view, selectedSpan);
    performance.mark('hastig:curve-ends');
    performance.clearMarks('hastig:curve-begins');
    performance.clearMarks('hastig:curve-ends');
  }, [shown, view.from, view.to, view.low, view.high, size, unit, theme, marks, selectedSpan]);

  const local = (at: readonly [number, number]) => localPoint(overlay.current!, at);

  const magnetsNow = (): number[] => {
    const { playhead, marks: now } = store.getState().session;
    return [playhead, now.from, now.to].filter((frame) => frame !== null);
  };

  const begin = (target: EventTarget | null, at: Point, boxed: boolean): void => {
    const grab = mode === 'draw' ? null : grabOf(target);
    const doing = boxed && !grab ? 'select' : mode;
    running.current = { grab, mode: doing, map, view, start: at, stroke: [at], magnets: magnetsNow(), result: null };
    if (grab && grab.kind !== 'keys' && grab.kind !== 'handle') dispatch(spanSelected(grab.index));
    if (grab || doing === 'draw') {
      setHeldRange(range);
      time.hold(true);
    } else if (doing === 'scrub') dispatch(spanSelected(null));
  };

  const move = (drag: Running, now: Point, free: boolean, oneSided: boolean): void => {
    if (!drag.grab && drag.mode === 'scrub') {
      seek(xToFrame(view, now.x));
      return;
    }
    if (!drag.grab && drag.mode === 'select') {
      setBox({ from: drag.start, to: now });
      return;
    }
    try {
      if (drag.grab) {
        const state = {
          view: drag.view,
          start: drag.start,
          now,
          free: free || !snap,
          oneSided,
          keeps,
          magnets: drag.magnets,
        };
        drag.result = draggedMap(drag.map, drag.grab, state);
      } else {
        drag.stroke.push(now);
        const drawn = drawnMap(drag.map, drag.view, drag.stroke, keeps);
        drag.result = drawn ? holdPins(drag.map, drawn) : null;
      }
      if (drag.result) dispatch(tryTiming(clipId, drag.result));
      setBubble({ ...now, text: describe(drag) });
    } catch (error) {
      if (!(error instanceof EditRefused)) throw error;
      setBubble({ ...now, text: error.message });
    }
  };

  const end = (): void => {
    running.current = null;
    setHeldRange(null);
    time.hold(false);
    setBubble(null);
    setBox(null);
  };

  const finish = (drag: Running, at: Point): void => {
    end();
    if (drag.result && drag.result !== drag.map) dispatch(commitTiming(labelOf(drag.grab), clipId, drag.result));
    else dispatch(projectTried(null));
    if (!drag.grab && drag.mode === 'select') dispatch(keysSelected(keysInBox(shown, view, drag.start, at)));
    if (!drag.grab && mode !== 'scrub') onDone();
  };

  const onDrag: DragHandler = ({ event, xy, initial, first, last, tap, altKey, shiftKey, pinching, cancel }) => {
    if (pinching) {
      cancel();
      dispatch(projectTried(null));
      end();
      return;
    }
    const at = local(xy);
    // From where the finger came down, not from where it was first felt to move.
    if (first) begin(event.target, local(initial), shiftKey);
    const drag = running.current;
    if (!drag) return;
    if (tap) {
      if (!drag.grab && drag.mode === 'scrub') seek(xToFrame(view, at.x));
    } else if (!first || !drag.grab) {
      move(drag, at, altKey, shiftKey);
    }
    if (last) finish(drag, at);
  };
  useTimeGestures(overlay, time, onDrag, { filterTaps: true });

  return (
    <View role="group" aria-label="Speed curve" className="min-h-[120px] flex-1 overflow-hidden bg-ink">
      <canvas ref={canvas} aria-hidden style={{ position: 'absolute', inset: 0, width: '100%', height: '100%' }} />
      <div
        ref={overlay}
        data-testid="curve"
        style={{
          position: 'absolute',
          inset: 0,
          touchAction: 'none',
          cursor: mode === 'scrub' ? 'default' : 'crosshair',
        }}
      >
        <CurveHandles clipId={clipId} map={shown} view={view} />
        <Playhead view={view} />
        {box ? <SelectionBox {...box} /> : null}
        {bubble ? <Bubble {...bubble} width={size.width} /> : null}
      </div>
    </View>
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
    plateau: 'drag the speed',
    ramp: 'move a ramp',
    key: 'move a key',
    joint: 'drag a key',
    handle: 'shape a ramp',
    keys: 'move keys',
    edge: 'widen a ramp',
  };
  return labels[grab.kind];
}

function describe({ grab, result }: Running): string {
  if (!result) return '';
  if (!grab) return 'drawing';
  const span = result.spans[Math.min(grab.index, result.spans.length - 1)]!;
  const frames = `${trimDecimals(span.frames, 1)} frames`;
  if (grab.kind === 'keys') return `${grab.keys.length} keys`;
  if (grab.kind === 'joint') {
    const speed = grab.half === 'in' ? result.spans[grab.index - 1]!.y[3] : span.y[0];
    return span.of === 'speed' ? formatPercent(speed) : frames;
  }
  return grab.kind === 'plateau' ? `${formatPercent(span.y[0])} · ${frames}` : frames;
}
