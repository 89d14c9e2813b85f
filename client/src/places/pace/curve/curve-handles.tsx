import type { RetimeMap } from '@hastig/contract';
import { moveKey, moveRamp, setPlateauSpeed, widenRamp, compile } from '@hastig/core';
import { useMemo, type CSSProperties, type KeyboardEvent } from 'react';
import { retime } from '../../../store/edit';
import { useAppDispatch, useAppSelector } from '../../../store/hooks';
import { spanSelected } from '../../../store/session-slice';
import { speedColour } from '../../../ui/palette';
import type { Grab } from './drag';
import { handlesOf, type CurveHandle } from './handles';
import { frameToX, speedToY, type CurveView } from './scale';

/** Least pixels from one bead to the next; closer ones wait until the curve is zoomed. */
const ROOM = 10;
/** Height and width of what a finger can hit. */
const TOUCH = 44;

const base: CSSProperties = {
  position: 'absolute',
  touchAction: 'none',
  display: 'flex',
  alignItems: 'center',
  justifyContent: 'center',
};

/** Everything in the curve that can be grabbed, with names and keys of its own. */
export function CurveHandles({ clipId, map, view }: { clipId: string; map: RetimeMap; view: CurveView }) {
  const dispatch = useAppDispatch();
  const selected = useAppSelector((state) => state.session.selectedSpan);
  const keeps = useAppSelector((state) => state.session.keeps);
  const all = useMemo(() => handlesOf(map), [map]);
  const visible = spacedHandles(all, view);

  const onKey = (handle: CurveHandle) => (event: KeyboardEvent) => {
    const up = { ArrowUp: 1, ArrowDown: -1 }[event.key] ?? 0;
    const along = { ArrowRight: 1, ArrowLeft: -1 }[event.key] ?? 0;
    const { index } = handle;
    const edit = (label: string, change: (map: RetimeMap) => RetimeMap): void => {
      event.preventDefault();
      event.stopPropagation();
      dispatch(retime(label, clipId, change));
    };
    if (up && handle.kind === 'plateau') {
      const step = event.shiftKey ? 0.01 : 0.05;
      edit('set the speed', (now) =>
        setPlateauSpeed(now, index, Math.round((handle.speed + up * step) * 1000) / 1000, keeps),
      );
    } else if (up && handle.widens && handle.kind === 'ramp') {
      edit('widen a ramp', (now) => widenRamp(now, index, Math.max(1, Math.round(handle.to - handle.from + 2 * up))));
    } else if (along && handle.kind === 'ramp') {
      edit('move a ramp', (now) => moveRamp(now, index, along));
    } else if (along && handle.kind === 'key') {
      edit('move a key', (now) => moveKey(now, index, Math.round(compile(now).times[index]! + along)));
    }
  };

  return (
    <>
      {visible.map((handle) => {
        const [x0, x1] = [frameToX(view, handle.from), frameToX(view, handle.to)];
        const y = speedToY(view, handle.speed);
        const grab = { kind: handle.kind, index: handle.index } as Grab;
        const common = {
          tabIndex: 0,
          role: 'slider',
          'aria-label': handle.name,
          'aria-valuetext': handle.value,
          'aria-valuenow': Math.round(handle.speed * 100),
          'data-grab': JSON.stringify(grab),
          onKeyDown: onKey(handle),
          onFocus: () => dispatch(spanSelected(handle.index)),
        } as const;
        const chosen = selected === handle.index;
        if (handle.kind === 'plateau') {
          const width = Math.max(8, x1 - x0 - 8);
          return (
            <div
              key={`p${handle.index}`}
              {...common}
              aria-orientation="vertical"
              style={{ ...base, left: x0 + 4, width, top: y - TOUCH / 2, height: TOUCH, cursor: 'ns-resize' }}
            >
              <Grip speed={handle.speed} width={Math.min(34, width)} chosen={chosen} />
            </div>
          );
        }
        const centre = (x0 + x1) / 2;
        return (
          <div key={`b${handle.kind}${handle.index}`}>
            <div
              {...common}
              aria-orientation="horizontal"
              style={{ ...base, left: centre - 16, width: 32, top: y - TOUCH / 2, height: TOUCH, cursor: 'ew-resize' }}
            >
              <Bead chosen={chosen} ramp={handle.kind === 'ramp'} />
            </div>
            {handle.widens ? <Edges handle={handle} x0={x0} x1={x1} y={y} /> : null}
          </div>
        );
      })}
    </>
  );
}

/** The handles in sight; of beads that lie too close, the first. */
function spacedHandles(handles: readonly CurveHandle[], view: CurveView): CurveHandle[] {
  let last = -Infinity;
  return handles.filter((handle) => {
    if (handle.to < view.from || handle.from > view.to) return false;
    if (handle.kind === 'plateau') return true;
    const centre = (frameToX(view, handle.from) + frameToX(view, handle.to)) / 2;
    if (centre - last < ROOM) return false;
    last = centre;
    return true;
  });
}

function Grip({ speed, width, chosen }: { speed: number; width: number; chosen: boolean }) {
  return (
    <div
      style={{
        width,
        height: chosen ? 9 : 7,
        borderRadius: 5,
        background: speedColour(speed),
        boxShadow: `0 0 0 ${chosen ? 3 : 2}px rgb(var(--${chosen ? 'bone' : 'ink'}))`,
      }}
    />
  );
}

function Bead({ chosen, ramp }: { chosen: boolean; ramp: boolean }) {
  return (
    <div
      style={{
        width: 14,
        height: 14,
        // A joint without a ramp is a diamond, one with a ramp a round bead.
        borderRadius: ramp ? 7 : 2,
        transform: ramp ? undefined : 'rotate(45deg) scale(0.85)',
        background: chosen ? 'rgb(var(--bone))' : 'rgb(var(--raised))',
        border: '2px solid rgb(var(--bone))',
      }}
    />
  );
}

function Edges({ handle, x0, x1, y }: { handle: CurveHandle; x0: number; x1: number; y: number }) {
  const of = handle.kind === 'ramp' ? 'ramp' : 'key';
  // A key's edges stand beside its bead, to pull a ramp out of it.
  const places = [
    { edge: -1, x: Math.min(x0, (x0 + x1) / 2 - 26) },
    { edge: 1, x: Math.max(x1, (x0 + x1) / 2 + 26) },
  ] as const;
  return (
    <>
      {places.map(({ edge, x }) => (
        <div
          key={edge}
          role="button"
          aria-label={`${of === 'ramp' ? 'Width' : 'Pull a ramp out'} of ${handle.name.toLowerCase()}, ${edge < 0 ? 'left' : 'right'} side`}
          data-grab={JSON.stringify({ kind: 'edge', index: handle.index, edge, of } satisfies Grab)}
          style={{ ...base, left: x - 12, width: 24, top: y - TOUCH / 2, height: TOUCH, cursor: 'col-resize' }}
        >
          <div
            style={{
              width: 3,
              height: 18,
              borderRadius: 2,
              background: `rgb(var(--bone) / ${of === 'ramp' ? 0.9 : 0.4})`,
            }}
          />
        </div>
      ))}
    </>
  );
}
