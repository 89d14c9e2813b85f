import type { RetimeMap } from '@hastig/contract';
import {
  compile,
  isConstantSpeed,
  moveKey,
  moveKeys,
  moveRamp,
  setHandles,
  setKeySpeeds,
  setLevelSpeed,
  widenRamp,
} from '@hastig/core';
import { useMemo, type CSSProperties, type KeyboardEvent } from 'react';
import { retime } from '../../../store/edit';
import { useAppDispatch, useAppSelector } from '../../../store/hooks';
import { spanSelected } from '../../../store/session-slice';
import type { Grab } from './drag';
import { Bead, Edges, Grip, TOUCH } from './grips';
import { handlesOf, type CurveHandle } from './handles';
import { frameToX, speedToY, type CurveView } from './scale';

/** Least pixels from one bead to the next; closer ones wait until the curve is zoomed. */
const ROOM = 10;

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
  const selectedKeys = useAppSelector((state) => state.session.selectedKeys);
  const keeps = useAppSelector((state) => state.session.keeps);
  const { from, to, width } = view;
  const visible = useMemo(
    () => handlesOf(map, { from, to, room: (ROOM * (to - from)) / width }),
    [map, from, to, width],
  );

  const onKey = (handle: CurveHandle) => (event: KeyboardEvent) => {
    const up = { ArrowUp: 1, ArrowDown: -1 }[event.key] ?? 0;
    const along = ({ ArrowRight: 1, ArrowLeft: -1 }[event.key] ?? 0) * (event.shiftKey ? 10 : 1);
    const { index, half } = handle;
    const edit = (label: string, change: (map: RetimeMap) => RetimeMap): void => {
      event.preventDefault();
      event.stopPropagation();
      dispatch(retime(label, clipId, change));
    };
    const speed = Math.round((handle.speed + up * (event.shiftKey ? 0.01 : 0.05)) * 1000) / 1000;
    if (along && selectedKeys.length > 0) edit('move keys', (now) => moveKeys(now, selectedKeys, along));
    else if (up && handle.kind === 'level') edit('set the speed', (now) => setLevelSpeed(now, index, speed, keeps));
    else if (up && handle.kind === 'joint') {
      const speeds = half === undefined ? { in: speed, out: speed } : { [half]: speed };
      edit('set a key’s speed', (now) => setKeySpeeds(now, index, speeds, keeps));
    } else if (up && handle.widens && handle.kind === 'ramp') {
      edit('widen a ramp', (now) => widenRamp(now, index, Math.max(1, Math.round(handle.to - handle.from + 2 * up))));
    } else if (along && handle.kind === 'ramp') edit('move a ramp', (now) => moveRamp(now, index, along));
    else if (along && (handle.kind === 'key' || handle.kind === 'joint')) {
      edit('move a key', (now) => moveKey(now, index, Math.round(compile(now).times[index]! + along)));
    }
  };

  return (
    <>
      {visible.map((handle) => (
        <Handle
          key={`${handle.kind}${handle.index}${handle.half ?? ''}`}
          {...{ handle, view, selectedKeys }}
          chosen={selected === handle.index || selectedKeys.includes(handle.index)}
          onKeyDown={onKey(handle)}
          onFocus={() => {
            if (selectedKeys.length === 0) dispatch(spanSelected(handle.index));
          }}
        />
      ))}
      {selected === null ? null : <BezierHandles clipId={clipId} map={map} view={view} index={selected} />}
    </>
  );
}

interface HandleProps {
  handle: CurveHandle;
  view: CurveView;
  selectedKeys: readonly number[];
  chosen: boolean;
  onKeyDown(event: KeyboardEvent): void;
  onFocus(): void;
}

function Handle({ handle, view, selectedKeys, chosen, onKeyDown, onFocus }: HandleProps) {
  const { kind, index, half } = handle;
  const [x0, x1] = [frameToX(view, handle.from), frameToX(view, handle.to)];
  const y = speedToY(view, handle.speed);
  const several = kind !== 'level' && selectedKeys.includes(index);
  const grab = several ? { kind: 'keys', index, keys: [...selectedKeys] } : { kind, index, ...(half && { half }) };
  const common = {
    tabIndex: 0,
    role: 'slider',
    'aria-label': handle.name,
    'aria-valuetext': handle.value,
    'aria-valuenow': Math.round(handle.speed * 100),
    'data-grab': JSON.stringify(grab),
    onKeyDown,
    onFocus,
  } as const;
  if (kind === 'level') {
    const width = Math.max(8, x1 - x0 - 8);
    return (
      <div
        {...common}
        aria-orientation="vertical"
        style={{ ...base, left: x0 + 4, width, top: y - TOUCH / 2, height: TOUCH, cursor: 'ns-resize' }}
      >
        <Grip speed={handle.speed} width={Math.min(34, width)} chosen={chosen} />
      </div>
    );
  }
  const centre = (x0 + x1) / 2;
  // The halves of a split key stand apart, each on its own side.
  const aside = half === 'in' ? -7 : half === 'out' ? 7 : 0;
  return (
    <div>
      <div
        {...common}
        aria-orientation="horizontal"
        style={{
          ...base,
          left: centre - 16 + aside,
          width: 32,
          top: y - TOUCH / 2,
          height: TOUCH,
          cursor: kind === 'joint' ? 'move' : 'ew-resize',
        }}
      >
        <Bead chosen={chosen} shape={kind === 'key' ? 'diamond' : (half ?? 'round')} />
      </div>
      {handle.widens ? <Edges handle={handle} x0={x0} x1={x1} y={y} /> : null}
    </div>
  );
}

/** The two handles of the selected part, where it is curved. */
function BezierHandles({
  clipId,
  map,
  view,
  index,
}: {
  clipId: string;
  map: RetimeMap;
  view: CurveView;
  index: number;
}) {
  const dispatch = useAppDispatch();
  const keeps = useAppSelector((state) => state.session.keeps);
  const span = map.spans[index];
  if (span?.of !== 'speed' || isConstantSpeed(span)) return null;
  const from = compile(map).times[index]!;
  const onKey = (which: 0 | 1) => (event: KeyboardEvent) => {
    const along = { ArrowRight: 0.02, ArrowLeft: -0.02 }[event.key] ?? 0;
    const up = { ArrowUp: 0.05, ArrowDown: -0.05 }[event.key] ?? 0;
    if (along === 0 && up === 0) return;
    event.preventDefault();
    event.stopPropagation();
    const x: [number, number] = [...span.x];
    const y: [number, number] = [span.y[1], span.y[2]];
    x[which] += along;
    y[which] += up;
    dispatch(retime('shape a ramp', clipId, (now) => setHandles(now, index, x, y, keeps)));
  };
  return (
    <>
      {([0, 1] as const).map((which) => {
        const x = frameToX(view, from + span.x[which] * span.frames);
        const y = speedToY(view, span.y[which + 1]!);
        return (
          <div
            key={which}
            role="slider"
            tabIndex={0}
            aria-label={`${which === 0 ? 'First' : 'Second'} handle of ramp ${index + 1}`}
            aria-valuenow={Math.round(span.y[which + 1]! * 100)}
            data-grab={JSON.stringify({ kind: 'handle', index, which } satisfies Grab)}
            onKeyDown={onKey(which)}
            style={{ ...base, left: x - 14, width: 28, top: y - 14, height: 28, cursor: 'move' }}
          >
            <Bead chosen={false} shape="handle" />
          </div>
        );
      })}
    </>
  );
}
