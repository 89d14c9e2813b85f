import type { Pair } from '@hastig/core';
import { useDrag } from '@use-gesture/react';
import { useRef, useState, type KeyboardEvent } from 'react';
import { localPoint, useSize } from '../../../time-view/use-size';

const HEIGHT = 120;
/** Pixels from the edges to the first and last. */
const RIM = 16;
const TOP = 16;
const BOTTOM = HEIGHT - 16;

interface PairThreadsProps {
  /** Where moments lie in the content and marks in the output, each in order. */
  moments: readonly number[];
  marks: readonly number[];
  pairs: readonly Pair[];
  /** What a moment and a mark are called. */
  momentName(index: number): string;
  markName(index: number): string;
  /** Puts a moment on a mark, or on none. */
  onPair(moment: number, mark: number | undefined): void;
}

/** A row of places along an axis, as pixels. */
function placed(all: readonly number[], width: number): number[] {
  const [first, last] = [all[0] ?? 0, all.at(-1) ?? 1];
  return all.map((at) => RIM + ((width - 2 * RIM) * (at - first)) / Math.max(1e-9, last - first));
}

/** Moments above, marks beneath, and a thread for each pair: dragged to another mark, or off all of them. */
export function PairThreads({ moments, marks, pairs, momentName, markName, onPair }: PairThreadsProps) {
  const target = useRef<HTMLDivElement>(null);
  const { width } = useSize(target);
  const [held, setHeld] = useState<{ moment: number; x: number; y: number } | null>(null);
  const [above, beneath] = [placed(moments, width), placed(marks, width)];
  const on = new Map(pairs.map(({ moment, mark }) => [moment, mark]));
  const nearest = (x: number): number =>
    beneath.reduce((best, at, index) => (Math.abs(at - x) < Math.abs(beneath[best]! - x) ? index : best), 0);

  useDrag(
    ({ event, xy, first, last, memo }) => {
      const sign = first
        ? (event.target as HTMLElement).closest<HTMLElement>('[data-moment]')?.dataset.moment
        : (memo as string | undefined);
      if (sign === undefined) return undefined;
      const { x, y } = localPoint(target.current!, xy);
      if (last) {
        setHeld(null);
        onPair(Number(sign), y < HEIGHT / 2 - 12 ? undefined : nearest(x));
      } else setHeld({ moment: Number(sign), x, y });
      return sign;
    },
    { target, filterTaps: true, pointer: { capture: false, keys: false } },
  );
  const onKeyDown = (moment: number) => (event: KeyboardEvent) => {
    const now = on.get(moment);
    const by = { ArrowRight: 1, ArrowLeft: -1 }[event.key] ?? 0;
    if (by === 0 && event.key !== 'Delete') return;
    event.preventDefault();
    event.stopPropagation();
    if (by === 0) onPair(moment, undefined);
    else
      onPair(moment, Math.min(marks.length - 1, Math.max(0, now === undefined ? nearest(above[moment]!) : now + by)));
  };
  return (
    <div
      ref={target}
      role="group"
      aria-label="Moments on markers"
      style={{
        position: 'relative',
        height: HEIGHT,
        touchAction: 'none',
        background: 'rgb(var(--ink))',
        borderRadius: 8,
      }}
    >
      <svg aria-hidden width={width} height={HEIGHT} style={{ position: 'absolute', pointerEvents: 'none' }}>
        {beneath.map((x, index) => (
          <path key={index} d={`M${x} ${BOTTOM - 5}V${BOTTOM + 5}`} stroke="rgb(var(--quiet))" strokeWidth={2} />
        ))}
        {pairs.map(({ moment, mark }) =>
          held?.moment === moment ? null : (
            <path
              key={moment}
              d={`M${above[moment]} ${TOP}L${beneath[mark]} ${BOTTOM}`}
              stroke="rgb(var(--bone))"
              strokeWidth={1.5}
            />
          ),
        )}
        {held ? (
          <path d={`M${above[held.moment]} ${TOP}L${held.x} ${held.y}`} stroke="rgb(var(--fast))" strokeWidth={2} />
        ) : null}
      </svg>
      {above.map((x, moment) => {
        const mark = on.get(moment);
        const where = mark === undefined ? 'on no marker' : `on ${markName(mark)}`;
        return (
          <div
            key={moment}
            role="button"
            tabIndex={0}
            data-moment={moment}
            aria-label={`${momentName(moment)} ${where}. Arrow keys change the marker, Delete frees it.`}
            onKeyDown={onKeyDown(moment)}
            style={{
              position: 'absolute',
              left: x - 14,
              top: TOP - 14,
              width: 28,
              height: 44,
              cursor: 'grab',
            }}
          >
            <div
              style={{
                width: 10,
                height: 10,
                margin: '9px auto',
                borderRadius: 5,
                background: mark === undefined ? 'transparent' : 'rgb(var(--bone))',
                border: '2px solid rgb(var(--bone))',
              }}
            />
          </div>
        );
      })}
    </div>
  );
}
