import type { RetimeMap } from '@hastig/contract';
import { EditRefused, formatPercent, trimDecimals } from '@hastig/core';
import { useDrag, usePinch } from '@use-gesture/react';
import { useEffect, useLayoutEffect, useRef, useState } from 'react';
import { View } from 'react-native';
import { useStage } from '../../../stage/stage-context';
import { commitTiming } from '../../../store/edit';
import { useAppDispatch, useAppSelector } from '../../../store/hooks';
import { spanSelected, trialSet } from '../../../store/session-slice';
import { currentTheme } from '../../../ui/theme';
import { CurveHandles } from './curve-handles';
import { draggedMap, drawnMap, type DragState, type Grab } from './drag';
import { drawCurve } from './draw';
import { Playhead } from './playhead';
import { xToFrame } from './scale';
import { useCurveView } from './use-curve-view';

export interface SpeedCurveProps {
  clipId: string;
  /** The clip's map in the document. */
  map: RetimeMap;
  /** The map to draw: the document's, or what is being tried out. */
  shown: RetimeMap;
  /** Whether a finger draws speeds instead of moving the playhead. */
  drawing: boolean;
  onDrawn(): void;
}

interface Running {
  grab: Grab | null;
  map: RetimeMap;
  view: DragState['view'];
  start: { x: number; y: number };
  stroke: { x: number; y: number }[];
  result: RetimeMap | null;
}

function grabOf(target: EventTarget | null): Grab | null {
  const element = target instanceof HTMLElement ? target.closest<HTMLElement>('[data-grab]') : null;
  return element ? (JSON.parse(element.dataset.grab!) as Grab) : null;
}

/** The speed curve: seen, scrubbed, and every part of it grabbed and dragged. */
export function SpeedCurve({ clipId, map, shown, drawing, onDrawn }: SpeedCurveProps) {
  const dispatch = useAppDispatch();
  const { seek } = useStage();
  const unit = useAppSelector((state) => state.session.unit);
  const keeps = useAppSelector((state) => state.session.keeps);
  const [size, setSize] = useState({ width: 1, height: 1 });
  const [bubble, setBubble] = useState<{ x: number; y: number; text: string } | null>(null);
  const running = useRef<Running | null>(null);
  const [held, setHeld] = useState(false);
  const { view, zoomAt, pan } = useCurveView(shown, size, held);
  const canvas = useRef<HTMLCanvasElement>(null);
  const overlay = useRef<HTMLDivElement>(null);
  const theme = currentTheme();

  useEffect(() => {
    const observer = new ResizeObserver(([entry]) => {
      const { width, height } = entry!.contentRect;
      setSize({ width: Math.max(1, width), height: Math.max(1, height) });
    });
    observer.observe(overlay.current!);
    return () => observer.disconnect();
  }, []);

  useLayoutEffect(() => {
    const element = canvas.current!;
    const ratio = devicePixelRatio || 1;
    const [width, height] = [Math.round(size.width * ratio), Math.round(size.height * ratio)];
    if (element.width !== width || element.height !== height) [element.width, element.height] = [width, height];
    const took = drawCurve(element.getContext('2d')!, shown, view, unit, ratio);
    performance.measure('hastig:curve', { start: performance.now() - took, duration: took });
  }, [shown, view.from, view.to, view.low, view.high, size, unit, theme]);

  const local = ([x, y]: readonly [number, number]): { x: number; y: number } => {
    const box = overlay.current!.getBoundingClientRect();
    return { x: x - box.left, y: y - box.top };
  };

  const move = (now: { x: number; y: number }, free: boolean): void => {
    const drag = running.current!;
    if (!drag.grab && !drawing) {
      seek(xToFrame(view, now.x));
      return;
    }
    try {
      if (drag.grab) {
        drag.result = draggedMap(drag.map, drag.grab, { view: drag.view, start: drag.start, now, free, keeps });
      } else {
        drag.stroke.push(now);
        drag.result = drawnMap(drag.map, drag.view, drag.stroke, keeps) ?? null;
      }
      if (drag.result) dispatch(trialSet({ clipId, timing: { start: drag.result.start, spans: drag.result.spans } }));
      setBubble({ ...now, text: describe(drag) });
    } catch (error) {
      if (!(error instanceof EditRefused)) throw error;
      setBubble({ ...now, text: error.message });
    }
  };

  const finish = (): void => {
    const drag = running.current;
    running.current = null;
    setHeld(false);
    setBubble(null);
    if (drag?.result && drag.result !== drag.map) dispatch(commitTiming(labelOf(drag.grab), clipId, drag.result));
    else dispatch(trialSet(null));
    if (drag && !drag.grab && drawing) onDrawn();
  };

  useDrag(
    ({ event, xy, first, last, tap, altKey, pinching, cancel, memo }) => {
      if (pinching) {
        cancel();
        running.current = null;
        setHeld(false);
        dispatch(trialSet(null));
        return memo as unknown;
      }
      const at = local(xy);
      if (first) {
        const grab = drawing ? null : grabOf(event.target);
        running.current = { grab, map, view, start: at, stroke: [at], result: null };
        if (grab) dispatch(spanSelected(grab.index));
        if (grab || drawing) setHeld(true);
        else if (!drawing) dispatch(spanSelected(null));
      }
      if (!running.current) return undefined;
      if (tap) {
        if (!running.current.grab && !drawing) seek(xToFrame(view, at.x));
      } else if (!first || !running.current.grab) {
        move(at, altKey);
      }
      if (last) finish();
      return undefined;
    },
    { target: overlay, filterTaps: true, pointer: { capture: false, keys: false } },
  );
  usePinch(
    ({ origin, movement: [scale], first, memo }) => {
      const before = first ? 1 : (memo as number);
      zoomAt(local(origin).x, scale / before);
      return scale;
    },
    { target: overlay, eventOptions: { passive: false } },
  );

  // Not by a React property: those listen passively and could not keep the page from zooming.
  const onWheel = useRef<(event: WheelEvent) => void>(() => undefined);
  onWheel.current = (event) => {
    event.preventDefault();
    const { deltaX, deltaY, ctrlKey } = event;
    if (ctrlKey || Math.abs(deltaY) > Math.abs(deltaX))
      zoomAt(local([event.clientX, event.clientY]).x, Math.exp(-deltaY / 300));
    else pan(-deltaX);
  };
  useEffect(() => {
    const element = overlay.current!;
    const listen = (event: WheelEvent): void => onWheel.current(event);
    element.addEventListener('wheel', listen, { passive: false });
    return () => element.removeEventListener('wheel', listen);
  }, []);

  return (
    <View role="group" aria-label="Speed curve" className="min-h-[150px] flex-1 overflow-hidden bg-ink">
      <canvas ref={canvas} aria-hidden style={{ position: 'absolute', inset: 0, width: '100%', height: '100%' }} />
      <div
        ref={overlay}
        data-testid="curve"
        style={{ position: 'absolute', inset: 0, touchAction: 'none', cursor: drawing ? 'crosshair' : 'default' }}
      >
        <CurveHandles clipId={clipId} map={shown} view={view} />
        <Playhead view={view} />
        {bubble ? <Bubble {...bubble} width={size.width} /> : null}
      </div>
    </View>
  );
}

function labelOf(grab: Grab | null): string {
  if (!grab) return 'draw the speed';
  return { plateau: 'drag the speed', ramp: 'move a ramp', key: 'move a key', edge: 'widen a ramp' }[grab.kind];
}

function describe({ grab, result }: Running): string {
  if (!result) return '';
  if (!grab) return 'drawing';
  const span = result.spans[Math.min(grab.index, result.spans.length - 1)]!;
  const frames = `${trimDecimals(span.frames, 1)} frames`;
  return grab.kind === 'plateau' ? `${formatPercent(span.y[0])} · ${frames}` : frames;
}

function Bubble({ x, y, text, width }: { x: number; y: number; text: string; width: number }) {
  // Above the finger, and never off the sides.
  return (
    <output
      style={{
        position: 'absolute',
        left: Math.min(Math.max(90, x), width - 90),
        top: Math.max(4, y - 56),
        transform: 'translateX(-50%)',
        maxWidth: 260,
        padding: '5px 9px',
        borderRadius: 8,
        background: 'rgb(var(--bone))',
        color: 'rgb(var(--ink))',
        font: '600 13px SplineSansMono_600SemiBold, monospace',
        pointerEvents: 'none',
      }}
    >
      {text}
    </output>
  );
}
