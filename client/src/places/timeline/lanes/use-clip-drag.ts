import type { ProjectDocument } from '@hastig/contract';
import { EditRefused } from '@hastig/core';
import { useRef, useState, type RefObject } from 'react';
import { useStore } from 'react-redux';
import { useStage } from '../../../stage/stage-context';
import { commitProject } from '../../../store/edit';
import { useAppDispatch } from '../../../store/hooks';
import { projectTried } from '../../../store/session-slice';
import type { RootState } from '../../../store/store';
import type { BubbleProps } from '../../../time-view/bubble';
import { localPoint } from '../../../time-view/use-size';
import { useTimeGestures, type DragHandler } from '../../../time-view/use-time-gestures';
import { xToFrame, type TimeControl } from '../../../time-view/use-time-view';
import { draggedClip, type DraggedClip, type DragResult } from './drag-clip';
import { laneAt, type Lane } from './lanes-view';

/** Milliseconds a finger rests on a clip until it is picked up; less, and the finger pans. */
const HOLD = 320;
/** Pixels of movement that make a drag. */
const STILL = 5;
/** Pixels from the sides within which a drag scrolls, and how far at each of its moments (ms). */
const SCROLL_RIM = 36;
const SCROLL_BY = 10;
const SCROLL_EVERY = 30;

interface Running {
  project: ProjectDocument;
  drag: DraggedClip | null;
  /** The gap it began on. */
  gap: { trackId: string; from: number } | null;
  /** The stretch of clips too narrow to be pointed at that it began on. */
  crowd: string | undefined;
  start: { x: number; y: number };
  /** Frame under the pointer when it began. */
  frame: number;
  /** Whether the clip follows: at once for an edge or the mouse, after a hold for a finger. */
  picked: boolean;
  moved: boolean;
  at: { x: number; y: number };
  free: boolean;
  result: DragResult | null;
  hold: ReturnType<typeof setTimeout> | undefined;
  scroll: ReturnType<typeof setInterval> | undefined;
}

interface ClipDragOptions {
  overlay: RefObject<HTMLDivElement | null>;
  lanes: readonly Lane[];
  time: TimeControl;
  selected: readonly string[];
  onChoose(clipId: string, more: boolean): void;
  /** A tap on a gap between clips. */
  onGap(trackId: string, from: number): void;
  /** A tap where nothing lies. */
  onNowhere(): void;
}

/** Dragging clips and their edges, panning and tapping; what it comes to stands beside the finger. */
export function useClipDrag({
  overlay,
  lanes,
  time,
  selected,
  onChoose,
  onGap,
  onNowhere,
}: ClipDragOptions): BubbleProps | null {
  const dispatch = useAppDispatch();
  const store = useStore<RootState>();
  const { seek } = useStage();
  const [bubble, setBubble] = useState<BubbleProps | null>(null);
  const running = useRef<Running | null>(null);
  // The view as it is when a timer looks: it scrolls while something is dragged.
  const latest = useRef({ time, lanes });
  latest.current = { time, lanes };

  const end = (): void => {
    clearTimeout(running.current?.hold);
    clearInterval(running.current?.scroll);
    if (running.current?.picked) time.hold(false);
    running.current = null;
    setBubble(null);
  };

  const pull = (drag: Running): void => {
    const { view } = latest.current.time;
    const { playhead, snap, edges, rippleMode } = store.getState().session;
    const by = xToFrame(view, drag.at.x) - drag.frame;
    const lane = laneAt(latest.current.lanes, drag.at.y);
    const state = { by, trackId: lane.track.id, view, playhead, snap: snap && !drag.free, edges, rippleMode };
    try {
      drag.result = draggedClip(drag.project, drag.drag!, state);
      dispatch(projectTried(drag.result.project));
      setBubble({ ...drag.at, text: drag.result.words });
    } catch (error) {
      if (!(error instanceof EditRefused)) throw error;
      setBubble({ ...drag.at, text: error.message });
    }
  };

  const scroll = (): void => {
    const drag = running.current;
    if (!drag?.picked || !drag.moved) return;
    const { width } = latest.current.time.view;
    const way = drag.at.x < SCROLL_RIM ? 1 : drag.at.x > width - SCROLL_RIM ? -1 : 0;
    if (way === 0) return;
    latest.current.time.pan(way * SCROLL_BY);
    pull(drag);
  };

  const begin = (event: PointerEvent, at: { x: number; y: number }): Running | null => {
    const { document } = store.getState().project;
    if (!document) return null;
    const target = event.target as HTMLElement;
    const { clip, edge } = target.closest<HTMLElement>('[data-clip]')?.dataset ?? {};
    const { crowd } = target.closest<HTMLElement>('[data-crowd]')?.dataset ?? {};
    const { gap, gapFrom } = target.closest<HTMLElement>('[data-gap]')?.dataset ?? {};
    const ids = clip && selected.includes(clip) ? selected : clip ? [clip] : [];
    const drag: DraggedClip | null = !clip
      ? null
      : edge
        ? { what: 'edge', clipId: clip, side: edge as 'start' | 'end' }
        : { what: 'clip', clipId: clip, ids };
    const made: Running = {
      gap: gap ? { trackId: gap, from: Number(gapFrom) } : null,
      crowd,
      ...{ project: document, drag, start: at, at, frame: xToFrame(time.view, at.x), free: false },
      ...{ picked: drag !== null && (drag.what === 'edge' || event.pointerType === 'mouse'), moved: false },
      ...{ result: null, hold: undefined, scroll: setInterval(scroll, SCROLL_EVERY) },
    };
    if (made.picked) time.hold(true);
    if (drag && !made.picked) {
      made.hold = setTimeout(() => {
        if (running.current !== made || made.moved) return;
        made.picked = true;
        time.hold(true);
        setBubble({ ...at, text: 'picked up' });
        if (!selected.includes(drag.clipId)) onChoose(drag.clipId, false);
      }, HOLD);
    }
    return made;
  };

  const tapped = (drag: Running, more: boolean): void => {
    seek(drag.frame);
    if (drag.crowd) return time.show(...(drag.crowd.split(',').map(Number) as [number, number]));
    if (drag.drag?.what === 'clip') onChoose(drag.drag.clipId, more);
    else if (drag.gap) onGap(drag.gap.trackId, drag.gap.from);
    else if (!drag.drag) onNowhere();
  };

  const onDrag: DragHandler = ({
    event,
    xy,
    first,
    last,
    delta: [dx],
    altKey,
    shiftKey,
    ctrlKey,
    metaKey,
    pinching,
    cancel,
  }) => {
    if (pinching) {
      cancel();
      dispatch(projectTried(null));
      end();
      return;
    }
    const at = localPoint(overlay.current!, xy);
    if (first) running.current = begin(event as PointerEvent, at);
    const drag = running.current;
    if (!drag) return;
    drag.at = at;
    drag.free = altKey;
    drag.moved ||= Math.hypot(at.x - drag.start.x, at.y - drag.start.y) > STILL;
    if (drag.moved && !last) {
      if (drag.picked) pull(drag);
      else if (!first) time.pan(dx);
    }
    if (!last) return;
    if (drag.moved && drag.picked) pull(drag);
    const { result, project } = drag;
    end();
    if (result && result.project !== project) dispatch(commitProject(result.label, result.project));
    else dispatch(projectTried(null));
    if (!drag.moved) tapped(drag, shiftKey || ctrlKey || metaKey);
  };
  useTimeGestures(overlay, time, onDrag, { filterTaps: false });
  return bubble;
}
