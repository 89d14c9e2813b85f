import type { RetimeMap } from '@hastig/contract';
import { compile, formatMoment, formatSourceFrame, keysOf, moveKey, setHandles, slipKey, type Key } from '@hastig/core';
import { useLayoutEffect, useState, type CSSProperties, type KeyboardEvent } from 'react';
import { useStage } from '../../../stage/stage-context';
import { retime } from '../../../store/edit';
import { useAppDispatch, useAppSelector, useSession } from '../../../store/hooks';
import { spanSelected } from '../../../store/session-slice';
import { currentTheme } from '../../../ui/theme';
import { Bead } from '../curve/grips';
import { keyWords } from '../curve/handles';
import { MapSurfaceView, useMapDrags, useMapSurface, type Point } from '../map-surface';
import { Playhead } from '../../../time-view/playhead';
import { sizedContext } from '../../../time-view/use-size';
import { frameToX, xToFrame, type TimeControl } from '../../../time-view/use-time-view';
import { drawPositions } from './draw-positions';
import {
  draggedPosition,
  handlePlace,
  positionsInSight,
  positionToY,
  type PositionGrab,
  type PositionView,
} from './position-view';

interface Running {
  grab: PositionGrab | null;
  map: RetimeMap;
  view: PositionView;
  start: Point;
}

interface PositionCurveProps {
  clipId: string;
  map: RetimeMap;
  shown: RetimeMap;
  time: TimeControl;
}

/** Source positions over output time: keys dragged along and up, and the handles of parts described by positions. */
export function PositionCurve({ clipId, map, shown, time }: PositionCurveProps) {
  const dispatch = useAppDispatch();
  const { seek } = useStage();
  const { unit, marks, snap, selectedSpan } = useSession('unit', 'marks', 'snap', 'selectedSpan');
  const [heldRange, setHeldRange] = useState<{ low: number; high: number } | null>(null);
  const theme = currentTheme();
  const surface = useMapSurface();
  const { canvasRef, size } = surface;
  const range = heldRange ?? positionsInSight(shown);
  const view: PositionView = { ...time.view, ...range, height: size.height };
  useMapDrags<Running>(surface, clipId, map, time, true, {
    begin: (target, start) => {
      const named = target.closest<HTMLElement>('[data-grab]')?.dataset.grab;
      const grab = named ? (JSON.parse(named) as PositionGrab) : null;
      if (grab) {
        setHeldRange(range);
        time.hold(true);
        if (grab.kind === 'key') dispatch(spanSelected(Math.min(grab.index, map.spans.length - 1)));
      }
      return { grab, map, view, start };
    },
    step: (drag, { at, free, first, tap }) => {
      if (!drag.grab) seek(xToFrame(view, at.x));
      if (!drag.grab || first || tap) return undefined;
      const { view: seen, start, grab } = drag;
      const result = draggedPosition(drag.map, grab, { view: seen, start, now: at, snap: snap && !free });
      const key = keysOf(result)[grab.index];
      const words = key && `${formatMoment(key.output, map.outputRate, unit)} · ${formatSourceFrame(key.source, unit)}`;
      return { result, words: grab.kind === 'key' && words ? words : 'shaping' };
    },
    finish: ({ grab }) => (grab?.kind === 'handle' ? 'shape a curve' : 'move a key'),
    onEnd: () => setHeldRange(null),
  });

  useLayoutEffect(() => {
    drawPositions(sizedContext(canvasRef.current!, size), shown, view, unit, marks, selectedSpan);
  }, [shown, view.from, view.to, view.low, view.high, size, unit, marks, selectedSpan, theme]);

  return (
    <MapSurfaceView surface={surface} label="Positions" name="positions" className="min-h-[120px] flex-1">
      <PositionHandles clipId={clipId} map={shown} view={view} />
      <Playhead view={view} />
    </MapSurfaceView>
  );
}

const base: CSSProperties = {
  position: 'absolute',
  width: 32,
  height: 32,
  marginLeft: -16,
  marginTop: -16,
  display: 'flex',
  alignItems: 'center',
  justifyContent: 'center',
  touchAction: 'none',
  cursor: 'move',
};

/** Least pixels between two keys that can both be grabbed. */
const ROOM = 10;

/** The keys in sight; of those that lie too close, the first. */
function spaced(keys: readonly Key[], view: PositionView): Key[] {
  let last = -Infinity;
  return keys.filter(({ output }) => {
    const x = frameToX(view, output);
    if (x < -1 || x > view.width + 1 || x - last < ROOM) return false;
    last = x;
    return true;
  });
}

function PositionHandles({ clipId, map, view }: { clipId: string; map: RetimeMap; view: PositionView }) {
  const dispatch = useAppDispatch();
  const selected = useAppSelector((state) => state.session.selectedSpan);
  const { times } = compile(map);
  const keys = keysOf(map);
  const visible = spaced(keys, view);
  const onKey = (index: number) => (event: KeyboardEvent) => {
    const along = { ArrowRight: 1, ArrowLeft: -1 }[event.key] ?? 0;
    const up = { ArrowUp: 1, ArrowDown: -1 }[event.key] ?? 0;
    if (along === 0 && up === 0) return;
    event.preventDefault();
    event.stopPropagation();
    const by = event.shiftKey ? 10 : 1;
    if (along)
      dispatch(retime('move a key', clipId, (now) => moveKey(now, index, Math.round(times[index]!) + along * by)));
    else
      dispatch(retime('slip a key', clipId, (now) => slipKey(now, index, Math.round(keys[index]!.source) + up * by)));
  };
  const onHandleKey = (index: number, which: 0 | 1) => (event: KeyboardEvent) => {
    const along = { ArrowRight: 0.02, ArrowLeft: -0.02 }[event.key] ?? 0;
    const up = { ArrowUp: 1, ArrowDown: -1 }[event.key] ?? 0;
    if (along === 0 && up === 0) return;
    event.preventDefault();
    event.stopPropagation();
    const span = map.spans[index]!;
    const x: [number, number] = [...span.x];
    const y: [number, number] = [span.y[1], span.y[2]];
    x[which] += along;
    y[which] += up;
    dispatch(retime('shape a curve', clipId, (now) => setHandles(now, index, x, y, 'length')));
  };
  const curved = selected !== null && map.spans[selected]?.of === 'position' ? selected : null;
  return (
    <>
      {visible.map((key) => (
        <div
          key={key.index}
          role="slider"
          tabIndex={0}
          aria-label={`Key ${key.index + 1} of ${keys.length}`}
          aria-valuenow={Math.round(key.source)}
          aria-valuetext={keyWords(map, key)}
          data-grab={JSON.stringify({ kind: 'key', index: key.index } satisfies PositionGrab)}
          onKeyDown={onKey(key.index)}
          onFocus={() => dispatch(spanSelected(Math.min(key.index, map.spans.length - 1)))}
          style={{ ...base, left: frameToX(view, key.output), top: positionToY(view, key.source) }}
        >
          <Bead chosen={selected === key.index} shape="round" />
        </div>
      ))}
      {curved === null
        ? null
        : ([0, 1] as const).map((which) => {
            const { x, y } = handlePlace(map, view, curved, which);
            return (
              <div
                key={`handle${which}`}
                role="slider"
                tabIndex={0}
                aria-label={`${which === 0 ? 'First' : 'Second'} handle of part ${curved + 1}`}
                aria-valuenow={Math.round(map.spans[curved]!.y[which + 1]!)}
                data-grab={JSON.stringify({ kind: 'handle', index: curved, which } satisfies PositionGrab)}
                onKeyDown={onHandleKey(curved, which)}
                style={{ ...base, left: x, top: y }}
              >
                <Bead chosen={false} shape="handle" />
              </div>
            );
          })}
    </>
  );
}
