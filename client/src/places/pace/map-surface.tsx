import type { RetimeMap } from '@hastig/contract';
import { EditRefused } from '@hastig/core';
import { useRef, useState, type CSSProperties, type ReactNode, type RefObject } from 'react';
import { View } from 'react-native';
import { commitTiming, tryTiming } from '../../store/edit';
import { useAppDispatch } from '../../store/hooks';
import { projectTried } from '../../store/session-slice';
import { Bubble, type BubbleProps } from '../../time-view/bubble';
import { localPoint, useSize } from '../../time-view/use-size';
import { useTimeGestures, type DragHandler } from '../../time-view/use-time-gestures';
import type { TimeControl } from '../../time-view/use-time-view';

/** Pixels of a surface. */
export interface Point {
  x: number;
  y: number;
}

/** How a finger or the pointer drags: where it is, and what is held down with it. */
export interface DragStep {
  at: Point;
  /** Nothing is snapped to. */
  free: boolean;
  oneSided: boolean;
  /** Pixels since the step before. */
  dx: number;
  first: boolean;
  tap: boolean;
}

interface MapDrags<R> {
  /** What a drag that begins has hold of; undefined for nothing. `at` is where the finger came down. */
  begin(target: HTMLElement, at: Point, oneSided: boolean): R | undefined;
  /**
   * What it makes of the map, and words for it beside the finger; undefined where it changes nothing.
   *
   * @throws EditRefused where it cannot go there, which is told beside the finger
   */
  step(drag: R, step: DragStep): { result: RetimeMap | null; words: string } | undefined;
  /** What an edit with its result is called; whatever else ends with it happens here. */
  finish(drag: R, result: RetimeMap | null, at: Point): string;
  /** The picture need not stand still any more. */
  onEnd?(): void;
}

/** A view of a clip's timing: what it is drawn on, and what lies over it. */
interface MapSurface {
  canvasRef: RefObject<HTMLCanvasElement | null>;
  overlayRef: RefObject<HTMLDivElement | null>;
  size: { width: number; height: number };
  bubble: BubbleProps | null;
  /** Says something beside the finger. */
  say(bubble: BubbleProps | null): void;
}

/** What a view of a clip's timing is drawn on; see `useMapDrags` for what is done on it. */
export function useMapSurface(): MapSurface {
  const canvasRef = useRef<HTMLCanvasElement>(null);
  const overlayRef = useRef<HTMLDivElement>(null);
  const size = useSize(overlayRef);
  const [bubble, setBubble] = useState<BubbleProps | null>(null);
  return { canvasRef, overlayRef, size, bubble, say: setBubble };
}

/**
 * Drags on a view of a clip's timing: tried out with every step, kept at the end, called off by a second finger.
 *
 * @param map the clip's in the document; a result that is this one changes nothing
 */
export function useMapDrags<R>(
  { overlayRef, say }: MapSurface,
  clipId: string,
  map: RetimeMap,
  time: TimeControl,
  filterTaps: boolean,
  drags: MapDrags<R>,
): void {
  const dispatch = useAppDispatch();
  const running = useRef<{ drag: R; map: RetimeMap; result: RetimeMap | null } | null>(null);

  const end = (): void => {
    running.current = null;
    time.hold(false);
    say(null);
    drags.onEnd?.();
  };
  const onDrag: DragHandler = ({ event, xy, initial, delta: [dx], first, last, tap, altKey, shiftKey, ...more }) => {
    if (more.pinching) {
      more.cancel();
      dispatch(projectTried(null));
      end();
      return;
    }
    const at = localPoint(overlayRef.current!, xy);
    if (first) {
      // From where the finger came down, not from where it was first felt to move.
      const drag = drags.begin(event.target as HTMLElement, localPoint(overlayRef.current!, initial), shiftKey);
      running.current = drag === undefined ? null : { drag, map, result: null };
    }
    const now = running.current;
    if (!now) return;
    try {
      const made = drags.step(now.drag, { at, free: altKey, oneSided: shiftKey, dx, first, tap });
      if (made) {
        now.result = made.result;
        if (made.result) dispatch(tryTiming(clipId, made.result));
        say({ ...at, text: made.words });
      }
    } catch (error) {
      if (!(error instanceof EditRefused)) throw error;
      say({ ...at, text: error.message });
    }
    if (!last) return;
    end();
    const label = drags.finish(now.drag, now.result, at);
    if (now.result && now.result !== now.map) dispatch(commitTiming(label, clipId, now.result));
    else dispatch(projectTried(null));
  };
  useTimeGestures(overlayRef, time, onDrag, { filterTaps });
}

interface MapSurfaceViewProps {
  surface: MapSurface;
  label: string;
  /** What tests find it by. */
  name: string;
  className: string;
  cursor?: CSSProperties['cursor'];
  children: ReactNode;
}

/** A view of a clip's timing, drawn, with what can be taken hold of over it. */
export function MapSurfaceView({ surface, label, name, className, cursor, children }: MapSurfaceViewProps) {
  const { canvasRef, overlayRef, bubble, size } = surface;
  return (
    <View role="group" aria-label={label} className={`${className} overflow-hidden bg-ink`}>
      <canvas ref={canvasRef} aria-hidden style={{ position: 'absolute', inset: 0, width: '100%', height: '100%' }} />
      <div
        ref={overlayRef}
        data-testid={name}
        onContextMenu={(event) => event.preventDefault()}
        style={{ position: 'absolute', inset: 0, touchAction: 'none', ...(cursor && { cursor }) }}
      >
        {children}
        {bubble ? <Bubble {...bubble} width={size.width} /> : null}
      </div>
    </View>
  );
}
