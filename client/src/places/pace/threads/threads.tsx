import type { RetimeMap } from '@hastig/contract';
import { formatMoment, formatSourceFrame } from '@hastig/core';
import { useLayoutEffect, useMemo, useRef, useState } from 'react';
import { useStage } from '../../../stage/stage-context';
import { retime } from '../../../store/edit';
import { useAppDispatch, useSession } from '../../../store/hooks';
import type { Arrangement } from '../../../ui/use-wide';
import { currentTheme } from '../../../ui/theme';
import { MarkerLines, type LineMoment } from '../../../time-view/marker-lines';
import { sizedContext } from '../../../time-view/use-size';
import { xToFrame, type TimeControl } from '../../../time-view/use-time-view';
import { MapSurfaceView, useMapDrags, useMapSurface, type Point } from '../map-surface';
import { draggedThread, isPinned, pinnedThread, threadAt, type GrabbedThread } from './drag-thread';
import { drawThreads } from '../../../time-view/draw-threads';
import { PlayheadThread } from './playhead-thread';
import { sourceInSight, xToSource, type ThreadsView } from '../../../time-view/threads-view';
import { ThreadHandles } from './thread-handles';
import type { FootageThumbs } from './use-footage-thumbs';

/** Milliseconds a thread is held until letting it go pins it. */
const HOLD = 550;
/** Pixels within which a thread rests on a marker. */
const REST = 9;
/** Pixels a finger may tremble while holding. */
const STILL = 6;
const still = { moved: false, pinning: false };

interface Running {
  map: RetimeMap;
  view: ThreadsView;
  start: Point;
  thread: GrabbedThread | undefined;
  /** Where there is no thread: the strip that was grabbed. */
  strip: 'source' | 'output';
  moved: boolean;
  /** Held so long that letting go pins it, unless it is moved first. */
  pinning: boolean;
  timer: ReturnType<typeof setTimeout> | undefined;
}

/** Pixels of the strips of frames, and how high all is. */
const strips: Record<Arrangement, number> = { phone: 32, turned: 24, wide: 38 };
const heights: Record<Arrangement, string> = { phone: 'h-[124px]', turned: 'h-[92px]', wide: 'h-[140px]' };

interface ThreadsProps {
  clipId: string;
  pictures: FootageThumbs;
  map: RetimeMap;
  shown: RetimeMap;
  time: TimeControl;
  arrangement: Arrangement;
  /** Markers beside the clip: drawn over the output, and threads rest on them. */
  lines: readonly LineMoment[];
}

/** Source frames above, output frames below, and a thread from each output frame to the source frame it shows. */
export function Threads({ clipId, pictures, map, shown, time, arrangement, lines }: ThreadsProps) {
  const dispatch = useAppDispatch();
  const { seek } = useStage();
  const { unit, snap } = useSession('unit', 'snap');
  const running = useRef<Running | null>(null);
  const [held, setHeld] = useState<ThreadsView['source'] | null>(null);
  const theme = currentTheme();
  const surface = useMapSurface();
  const { canvasRef, overlayRef, size } = surface;

  const { from, to, width } = time.view;
  const view = useMemo<ThreadsView>(
    () => ({
      time: { from, to, width },
      source: held ?? sourceInSight(shown, { from, to, width }),
      strip: strips[arrangement],
      height: size.height,
    }),
    [from, to, width, held, shown, size.height, arrangement],
  );

  const holdStill = (drag: Running): void => {
    drag.timer = setTimeout(() => {
      if (running.current !== drag || drag.moved || !drag.thread) return;
      drag.pinning = true;
      const pinned = isPinned(drag.map, drag.thread.output);
      surface.say({ ...drag.start, text: pinned ? 'release to unpin' : 'release to pin' });
    }, HOLD);
  };
  const describe = ({ thread, view: drawn }: Running, at: Point): string =>
    thread!.end === 'time'
      ? `output ${formatMoment(Math.round(xToFrame(drawn.time, at.x)), map.outputRate, unit)}`
      : `source ${formatSourceFrame(Math.round(xToSource(drawn, at.x)), unit)}`;
  // On a marker near enough to be meant, else on a whole frame.
  const restingAt = (output: number, moved: number, { time: seen }: ThreadsView): number => {
    const reach = (REST * (seen.to - seen.from)) / seen.width;
    const near = lines.find(({ at }) => Math.abs(at - output - moved) < reach);
    return near ? near.at - output : Math.round(moved);
  };
  const pulled = ({ thread, view: drawn, start, map: from }: Running, at: Point, free: boolean): RetimeMap => {
    const moved =
      thread!.end === 'time'
        ? xToFrame(drawn.time, at.x) - xToFrame(drawn.time, start.x)
        : xToSource(drawn, at.x) - xToSource(drawn, start.x);
    if (free || !snap) return draggedThread(from, thread!, moved);
    return draggedThread(
      from,
      thread!,
      thread!.end === 'time' ? restingAt(thread!.output, moved, drawn) : Math.round(moved),
    );
  };

  useMapDrags<Running>(surface, clipId, map, time, false, {
    begin: (target, at) => {
      const named = target.closest<HTMLElement>('[data-thread]')?.dataset.thread;
      const thread = named ? (JSON.parse(named) as GrabbedThread) : threadAt(map, view, at);
      const strip = at.y < view.height / 2 ? 'source' : 'output';
      const drag: Running = { map, view, start: at, thread, strip, timer: undefined, ...still };
      running.current = drag;
      if (thread) {
        setHeld(view.source);
        time.hold(true);
        holdStill(drag);
      }
      return drag;
    },
    step: (drag, { at, free, first, dx }) => {
      drag.moved ||= Math.hypot(at.x - drag.start.x, at.y - drag.start.y) > STILL;
      // What is moved is dragged, however long it was held before: on a slow device the move may come late.
      drag.pinning &&= !drag.moved;
      // A slow drag is no hold: what counts is how long the finger has been still.
      if (!first && drag.timer && !drag.moved) {
        clearTimeout(drag.timer);
        holdStill(drag);
      }
      if (drag.thread) return drag.moved ? { result: pulled(drag, at, free), words: describe(drag, at) } : undefined;
      if (drag.strip === 'output') seek(xToFrame(view.time, at.x));
      else if (!first) time.pan(dx);
      return undefined;
    },
    finish: ({ thread, moved, pinning }) => {
      if (pinning && thread) {
        dispatch(retime('pin a frame', clipId, (now) => pinnedThread(now, thread.output)));
      } else if (thread && !moved) seek(thread.output);
      return thread?.end === 'time' ? 'move a frame in time' : 'slip the content';
    },
    onEnd: () => {
      clearTimeout(running.current?.timer);
      running.current = null;
      setHeld(null);
    },
  });
  useLayoutEffect(() => {
    const context = sizedContext(canvasRef.current!, size);
    const wishes = drawThreads(context, shown, view, pictures);
    pictures.want(wishes);
    overlayRef.current!.ariaBusy = String(!pictures.has(wishes));
  }, [shown, view, size, pictures, theme]);

  return (
    <MapSurfaceView surface={surface} label="Threads" name="threads" className={`${heights[arrangement]} flex-none`}>
      <MarkerLines
        moments={lines}
        view={view.time}
        top={size.height - strips[arrangement]}
        height={strips[arrangement]}
      />
      <ThreadHandles clipId={clipId} map={shown} view={view} />
      <PlayheadThread map={shown} view={view} />
    </MapSurfaceView>
  );
}
