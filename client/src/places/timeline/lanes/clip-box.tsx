import type { Clip, RetimeMap } from '@hastig/contract';
import { formatMoment, formatTime, type TimeUnit } from '@hastig/core';
import Group from 'lucide-react-native/icons/group';
import Frame from 'lucide-react-native/icons/picture-in-picture-2';
import VolumeX from 'lucide-react-native/icons/volume-x';
import { memo, type CSSProperties, type KeyboardEvent } from 'react';
import { speedRangeText } from '../../../stage/strip';
import { Icon } from '../../../ui/icon';
import { NAME_LINE } from './draw-lanes';
import type { LaneBox } from './lanes-view';

interface ClipBoxProps extends LaneBox {
  clip: Clip;
  map: RetimeMap;
  /** Which of how many it is on which track, for people. */
  place: string;
  /** Frames of its timing that are hidden before and after what is shown. */
  head: number;
  tail: number;
  unit: TimeUnit;
  selected: boolean;
  /** Frame with which the timecode starts. */
  start: number;
  /** Its sound can't be decoded here. */
  deaf: boolean;
  onChoose(clipId: string, more: boolean): void;
  onStep(clipId: string, side: 'start' | 'end', by: number): void;
}

const EDGE = 26;
/** Pixels of the folded corner that stands for hidden frames. */
const FOLD = 9;

/** A clip on its lane: chosen by a tap, its edges dragged once it is. Drawn anew only when something of it changes. */
export const ClipBox = memo(function ClipBox(props: ClipBoxProps) {
  const {
    clip,
    map,
    x,
    width,
    from,
    to,
    top,
    height,
    place,
    head,
    tail,
    unit,
    selected,
    start,
    deaf,
    onChoose,
    onStep,
  } = props;
  const own = [clip.picture ? 'picture adjusted' : '', clip.muted ? 'muted' : deaf ? 'sound can’t be decoded' : ''];
  const hidden = [head > 0 ? `head handle ${head}` : '', tail > 0 ? `tail handle ${tail}` : ''];
  const rate = map.outputRate;
  const where = `${formatMoment(from + start, rate, unit)}, duration ${formatTime(to - from, rate, unit)}`;
  const speeds = speedRangeText(map);
  const kind = clip.of.kind === 'group' ? 'Group' : 'Clip';
  const box: CSSProperties = {
    position: 'absolute',
    left: x + 1,
    top,
    width: Math.max(3, width - 2),
    height,
    borderRadius: 6,
    boxSizing: 'border-box',
    border: `2px solid rgb(var(--${selected ? 'bone' : 'ink'}))`,
    overflow: 'hidden',
    cursor: 'grab',
    touchAction: 'none',
    padding: 0,
    background: 'transparent',
  };
  const onKeyDown = (event: KeyboardEvent): void => {
    if (event.key !== ' ') return;
    event.preventDefault();
    event.stopPropagation();
    onChoose(clip.id, event.ctrlKey || event.metaKey || event.shiftKey);
  };
  return (
    <>
      <div
        role="button"
        tabIndex={0}
        aria-pressed={selected}
        aria-label={`${kind} ${place}: ${[`${clip.name}, from ${where}`, speeds, ...own, ...hidden].filter(Boolean).join(', ')}`}
        data-clip={clip.id}
        onKeyDown={onKeyDown}
        onFocus={(event) => event.target.matches(':focus-visible') && !selected && onChoose(clip.id, false)}
        style={box}
      >
        <div
          style={{
            height: NAME_LINE,
            padding: '0 6px',
            display: 'flex',
            alignItems: 'center',
            gap: 4,
            background: 'rgb(var(--raised))',
            color: 'rgb(var(--bone))',
            font: '12px SchibstedGrotesk_400Regular, sans-serif',
            whiteSpace: 'nowrap',
            // In sight for as long as any of the clip is.
            paddingLeft: Math.max(6, Math.min(-x + 6, width - 60)),
            pointerEvents: 'none',
          }}
        >
          {clip.of.kind === 'group' ? <Icon of={Group} size={12} /> : null}
          {clip.picture ? <Icon of={Frame} size={12} /> : null}
          {clip.muted || deaf ? <Icon of={VolumeX} size={12} /> : null}
          {width > 34 ? clip.name : ''}
        </div>
      </div>
      {head > 0 ? <Handle x={x + 1} top={top + NAME_LINE} /> : null}
      {tail > 0 ? <Handle x={x + width - 1} top={top + NAME_LINE} end /> : null}
      {selected ? (
        <>
          <Edge {...{ clip, top, height, onStep }} side="start" x={x} frame={from} />
          <Edge {...{ clip, top, height, onStep }} side="end" x={x + width} frame={to} />
        </>
      ) : null}
    </>
  );
});

interface EdgeProps extends Pick<ClipBoxProps, 'clip' | 'top' | 'height' | 'onStep'> {
  side: 'start' | 'end';
  x: number;
  frame: number;
}

function Edge({ clip, side, x, frame, top, height, onStep }: EdgeProps) {
  const onKeyDown = (event: KeyboardEvent): void => {
    const by = { ArrowRight: 1, ArrowLeft: -1 }[event.key] ?? 0;
    if (by === 0) return;
    event.preventDefault();
    event.stopPropagation();
    onStep(clip.id, side, by * (event.shiftKey ? 10 : 1));
  };
  return (
    <div
      role="slider"
      tabIndex={0}
      aria-label={`${side === 'start' ? 'Start' : 'End'} of ${clip.name}`}
      aria-valuenow={frame}
      aria-valuetext={`frame ${frame}`}
      data-edge={side}
      data-clip={clip.id}
      onKeyDown={onKeyDown}
      style={{
        position: 'absolute',
        left: x - EDGE / 2,
        top,
        width: EDGE,
        height,
        cursor: 'ew-resize',
        touchAction: 'none',
        display: 'flex',
        alignItems: 'center',
        justifyContent: 'center',
        zIndex: 1,
      }}
    >
      <div
        style={{
          width: 8,
          height: 28,
          borderRadius: 4,
          background: 'rgb(var(--bone))',
          border: '2px solid rgb(var(--ink))',
        }}
      />
    </div>
  );
}

// A folded corner: more of the clip lies under this edge.
function Handle({ x, top, end = false }: { x: number; top: number; end?: boolean }) {
  return (
    <div
      aria-hidden
      style={{
        position: 'absolute',
        left: end ? x - FOLD : x,
        top,
        width: FOLD,
        height: FOLD,
        background: 'rgb(var(--bone))',
        clipPath: end ? 'polygon(0 0, 100% 0, 100% 100%)' : 'polygon(0 0, 100% 0, 0 100%)',
        pointerEvents: 'none',
      }}
    />
  );
}
