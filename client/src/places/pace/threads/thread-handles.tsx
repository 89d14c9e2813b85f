import type { RetimeMap } from '@hastig/contract';
import { compile, formatMoment, formatSourceFrame, pinAt } from '@hastig/core';
import type { CSSProperties, KeyboardEvent } from 'react';
import { retime } from '../../../store/edit';
import { useAppDispatch, useAppSelector } from '../../../store/hooks';
import { frameToX } from '../../../time-view/use-time-view';
import { draggedThread, pinnedThread, type GrabbedThread } from './drag-thread';
import { sourceToX, type ThreadsView } from '../../../time-view/threads-view';

/** Least pixels from one handle to the next. */
const ROOM = 16;

const base: CSSProperties = {
  position: 'absolute',
  width: 28,
  height: 28,
  marginLeft: -14,
  display: 'flex',
  alignItems: 'center',
  justifyContent: 'center',
  touchAction: 'none',
  cursor: 'ew-resize',
};

/** The ends of the keys' threads, to be reached without a pointer too. */
export function ThreadHandles({ clipId, map, view }: { clipId: string; map: RetimeMap; view: ThreadsView }) {
  const dispatch = useAppDispatch();
  const unit = useAppSelector((state) => state.session.unit);
  const { times, positions, count } = compile(map);
  const keys: number[] = [];
  let last = -Infinity;
  for (let index = 0; index <= count; index++) {
    const x = frameToX(view.time, times[index]!);
    if (x < -1 || x > view.time.width + 1 || x - last < ROOM) continue;
    keys.push(index);
    last = x;
  }

  const onKey = (thread: GrabbedThread) => (event: KeyboardEvent) => {
    const step = { ArrowRight: 1, ArrowLeft: -1 }[event.key] ?? 0;
    const by = step * (event.shiftKey ? 10 : 1);
    if (by === 0 && event.key !== 'p') return;
    event.preventDefault();
    event.stopPropagation();
    if (by === 0) dispatch(retime('pin a frame', clipId, (now) => pinnedThread(now, thread.output)));
    else if (thread.end === 'time')
      dispatch(retime('move a frame in time', clipId, (now) => draggedThread(now, thread, by)));
    else dispatch(retime('slip the content', clipId, (now) => draggedThread(now, thread, by)));
  };

  const handle = (index: number, end: GrabbedThread['end']) => {
    const output = times[index]!;
    const pinned = !!pinAt(map, output);
    const thread: GrabbedThread = { end, output };
    const x = end === 'time' ? frameToX(view.time, output) : sourceToX(view, positions[index]!);
    const edge = end === 'time' ? { bottom: view.strip - 14 } : { top: view.strip - 14 };
    const place =
      end === 'time' ? formatMoment(output, map.outputRate, unit) : formatSourceFrame(positions[index]!, unit);
    return (
      <div
        key={`${end}${index}`}
        role="slider"
        tabIndex={0}
        aria-label={`Thread of key ${index + 1}, ${end === 'time' ? 'output' : 'source frame'}`}
        aria-valuenow={Math.round(end === 'time' ? output : positions[index]!)}
        aria-valuetext={`${place}${pinned ? ', pinned' : ''}`}
        data-thread={JSON.stringify(thread)}
        onKeyDown={onKey(thread)}
        style={{ ...base, left: x, ...edge }}
      >
        <ThreadEnd pinned={pinned} />
      </div>
    );
  };

  return (
    <>
      {keys.map((index) => handle(index, 'content'))}
      {keys.map((index) => handle(index, 'time'))}
    </>
  );
}

// A pinned end is a ring with a point in it, a loose one a small disc.
function ThreadEnd({ pinned }: { pinned: boolean }) {
  return (
    <div
      style={{
        width: pinned ? 14 : 9,
        height: pinned ? 14 : 9,
        borderRadius: 7,
        background: pinned ? 'rgb(var(--ink))' : 'rgb(var(--bone))',
        border: `2px solid rgb(var(--${pinned ? 'bone' : 'ink'}))`,
        display: 'flex',
        alignItems: 'center',
        justifyContent: 'center',
      }}
    >
      {pinned ? <div style={{ width: 5, height: 5, borderRadius: 3, background: 'rgb(var(--bone))' }} /> : null}
    </div>
  );
}
