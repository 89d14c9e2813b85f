import type { RetimeMap } from '@hastig/contract';
import { compile, speedAt } from '@hastig/core';
import { useMemo } from 'react';
import { frameToX, xToFrame, type TimeView } from '../../time-view/use-time-view';

/** Pixels from one looked-at moment to the next. */
const STEP = 2;
/** Speeds beside which the curve is drawn the full way up: real time lies in the middle. */
const WIDEST = 16;

// Each doubling takes as much room; a stand is at the bottom.
function share(speed: number): number {
  const octaves = Math.log2(Math.max(1 / WIDEST, Math.min(WIDEST, Math.abs(speed))));
  return 0.5 + octaves / (2 * Math.log2(WIDEST));
}

/** A clip's speed over its output: how fast, whichever way; real time is the line in the middle. */
export function SpeedCourse({ map, view, height }: { map: RetimeMap; view: TimeView; height: number }) {
  const { from, to, width } = view;
  const points = useMemo(() => {
    const { length } = compile(map);
    const found: string[] = [];
    const end = Math.min(width, frameToX({ from, to, width }, length));
    for (let x = Math.max(0, frameToX({ from, to, width }, 0)); x <= end; x += STEP) {
      const at = Math.min(length - 1e-6, Math.max(0, xToFrame({ from, to, width }, x)));
      found.push(`${x.toFixed(1)},${((1 - share(speedAt(map, at))) * (height - 4) + 2).toFixed(1)}`);
    }
    return found.join(' ');
  }, [map, from, to, width, height]);
  return (
    <svg aria-hidden width={width} height={height} style={{ display: 'block' }}>
      <line x1={0} x2={width} y1={height / 2} y2={height / 2} stroke="rgb(var(--line))" />
      <polyline points={points} fill="none" stroke="rgb(var(--bone))" strokeWidth={1.5} />
    </svg>
  );
}
