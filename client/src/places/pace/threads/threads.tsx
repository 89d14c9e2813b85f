import type { RetimeMap } from '@hastig/contract';
import { EditRefused, formatMoment, formatSourceFrame } from '@hastig/core';
import { useLayoutEffect, useMemo, useRef, useState } from 'react';
import { View } from 'react-native';
import { useStage } from '../../../stage/stage-context';
import { commitTiming, retime, tryTiming } from '../../../store/edit';
import { useAppDispatch, useSession } from '../../../store/hooks';
import { projectTried } from '../../../store/session-slice';
import { currentTheme } from '../../../ui/theme';
import { Bubble, type BubbleProps } from '../../../time-view/bubble';
import { localPoint, sizedContext, useSize } from '../../../time-view/use-size';
import { useTimeGestures, type DragHandler } from '../../../time-view/use-time-gestures';
import { xToFrame, type TimeControl } from '../../../time-view/use-time-view';
import { draggedThread, isPinned, pinnedThread, threadAt, type GrabbedThread } from './drag-thread';
import { drawThreads } from './draw-threads';
import { PlayheadThread } from './playhead-thread';
import { sourceInSight, xToSource, type ThreadsView } from './threads-view';
import { ThreadHandles } from './thread-handles';
import type { FootageThumbs } from './use-footage-thumbs';

/** Milliseconds a thread is held until letting it go pins it. */
const HOLD = 550;
/** Pixels a finger may tremble while holding. */
const STILL = 6;
const still = { moved: false, pinning: false };

interface Running {
  map: RetimeMap;
  view: ThreadsView;
  start: { x: number; y: number };
  thread: GrabbedThread | undefined;
  /** Where there is no thread: the strip that was grabbed. */
  strip: 'source' | 'output';
  result: RetimeMap | null;
  moved: boolean;
  /** Held so long that letting go pins it, unless it is moved first. */
  pinning: boolean;
  timer: ReturnType<typeof setTimeout> | undefined;
}

interface ThreadsProps {
  clipId: string;
  pictures: FootageThumbs;
  map: RetimeMap;
  shown: RetimeMap;
  time: TimeControl;
  wide: boolean;
}

/** Source frames above, output frames below, and a thread from each output frame to the source frame it shows. */
export function Threads({ clipId, pictures, map, shown, time, wide }: ThreadsProps) {
  const dispatch = useAppDispatch();
  const { seek } = useStage();
  const { unit, snap } = useSession('unit', 'snap');
  const canvas = useRef<HTMLCanvasElement>(null);
  const overlay = useRef<HTMLDivElement>(null);
  const size = useSize(overlay);
  const running = useRef<Running | null>(null);
  const [held, setHeld] = useState<ThreadsView['source'] | null>(null);
  const [bubble, setBubble] = useState<BubbleProps | null>(null);
  const theme = currentTheme();

  const { from, to, width } = time.view;
  const view = useMemo<ThreadsView>(
    () => ({
      time: { from, to, width },
      source: held ?? sourceInSight(shown, { from, to, width }),
      strip: wide ? 38 : 32,
      height: size.height,
    }),
    [from, to, width, held, shown, size.height, wide],
  );

  useLayoutEffect(() => {
    const context = sizedContext(canvas.current!, size);
    const wishes = drawThreads(context, shown, view, pictures);
    pictures.want(wishes);
    overlay.current!.ariaBusy = String(!pictures.has(wishes));
  }, [shown, view, size, pictures, theme]);

  const local = (at: readonly [number, number]) => localPoint(overlay.current!, at);

  const holdStill = (drag: Running): void => {
    drag.timer = setTimeout(() => {
      if (running.current !== drag || drag.moved || !drag.thread) return;
      drag.pinning = true;
      const pinned = isPinned(drag.map, drag.thread.output);
      setBubble({ ...drag.start, text: pinned ? 'let go to unpin' : 'let go to pin' });
    }, HOLD);
  };

  const end = (): void => {
    clearTimeout(running.current?.timer);
    running.current = null;
    setHeld(null);
    setBubble(null);
    time.hold(false);
  };

  const describe = ({ thread, view: drawn }: Running, at: { x: number; y: number }): string =>
    thread!.end === 'time'
      ? `output ${formatMoment(Math.round(xToFrame(drawn.time, at.x)), map.outputRate, unit)}`
      : `source ${formatSourceFrame(Math.round(xToSource(drawn, at.x)), unit)}`;

  const pull = (drag: Running, at: { x: number; y: number }, free: boolean): void => {
    const { thread, view: drawn, start } = drag;
    const moved =
      thread!.end === 'time'
        ? xToFrame(drawn.time, at.x) - xToFrame(drawn.time, start.x)
        : xToSource(drawn, at.x) - xToSource(drawn, start.x);
    try {
      drag.result = draggedThread(drag.map, thread!, free || !snap ? moved : Math.round(moved));
      dispatch(tryTiming(clipId, drag.result));
      setBubble({ ...at, text: describe(drag, at) });
    } catch (error) {
      if (!(error instanceof EditRefused)) throw error;
      setBubble({ ...at, text: error.message });
    }
  };

  const onDrag: DragHandler = ({ event, xy, first, last, delta: [dx], altKey, pinching, cancel }) => {
    if (pinching) {
      cancel();
      dispatch(projectTried(null));
      end();
      return;
    }
    const at = local(xy);
    if (first) {
      const named = (event.target as HTMLElement).closest<HTMLElement>('[data-thread]')?.dataset.thread;
      const thread = named ? (JSON.parse(named) as GrabbedThread) : threadAt(map, view, at);
      const strip = at.y < view.height / 2 ? 'source' : 'output';
      const drag: Running = { map, view, start: at, thread, strip, result: null, timer: undefined, ...still };
      running.current = drag;
      if (thread) {
        setHeld(view.source);
        time.hold(true);
        holdStill(drag);
      }
    }
    const drag = running.current;
    if (!drag) return;
    drag.moved ||= Math.hypot(at.x - drag.start.x, at.y - drag.start.y) > STILL;
    // What is moved is dragged, however long it was held before: on a slow device the move may come late.
    drag.pinning &&= !drag.moved;
    // A slow drag is no hold: what counts is how long the finger has been still.
    if (!first && drag.timer && !drag.moved) {
      clearTimeout(drag.timer);
      holdStill(drag);
    }
    if (drag.thread) {
      if (drag.moved) pull(drag, at, altKey);
    } else if (drag.strip === 'output') seek(xToFrame(view.time, at.x));
    else if (!first) time.pan(dx);
    if (!last) return;
    const { result, thread, moved, pinning } = drag;
    end();
    if (pinning && thread) {
      dispatch(retime('pin a frame', clipId, (now) => pinnedThread(now, thread.output)));
    } else if (result && result !== map) {
      dispatch(commitTiming(thread!.end === 'time' ? 'move a frame in time' : 'slip the content', clipId, result));
    } else {
      dispatch(projectTried(null));
      if (thread && !moved) seek(thread.output);
    }
  };
  useTimeGestures(overlay, time, onDrag, { filterTaps: false });

  return (
    <View
      role="group"
      aria-label="Threads"
      className={`${wide ? 'h-[140px]' : 'h-[124px]'} flex-none overflow-hidden bg-ink`}
    >
      <canvas ref={canvas} aria-hidden style={{ position: 'absolute', inset: 0, width: '100%', height: '100%' }} />
      <div
        ref={overlay}
        data-testid="threads"
        onContextMenu={(event) => event.preventDefault()}
        style={{ position: 'absolute', inset: 0, touchAction: 'none' }}
      >
        <ThreadHandles clipId={clipId} map={shown} view={view} />
        <PlayheadThread map={shown} view={view} />
        {bubble ? <Bubble {...bubble} width={width} /> : null}
      </div>
    </View>
  );
}
