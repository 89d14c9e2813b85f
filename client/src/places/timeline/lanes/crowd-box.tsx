import type { Rate } from '@hastig/contract';
import { formatMoment, type TimeUnit } from '@hastig/core';
import { memo, type KeyboardEvent } from 'react';
import type { Crowd, Lane } from './lanes-view';

interface CrowdBoxProps {
  crowd: Crowd;
  lane: Lane;
  rate: Rate;
  unit: TimeUnit;
  /** Frame with which the timecode starts. */
  start: number;
  onCloser(from: number, to: number): void;
}

/** Pixels in which the number of clips can be read. */
const COUNT_ROOM = 34;
const count = {
  padding: '1px 4px',
  borderRadius: 4,
  background: 'rgb(var(--raised))',
  color: 'rgb(var(--quiet))',
  font: '10px SplineSansMono_400Regular, monospace',
  pointerEvents: 'none',
} as const;

/** Clips too narrow to be told apart: it leads to where they can be. */
export const CrowdBox = memo(function CrowdBox({ crowd, lane, rate, unit, start, onCloser }: CrowdBoxProps) {
  const { x, width, from, to, clips } = crowd;
  const closer = (): void => onCloser(from, to);
  const onKeyDown = (event: KeyboardEvent): void => {
    if (event.key !== ' ' && event.key !== 'Enter') return;
    event.preventDefault();
    event.stopPropagation();
    closer();
  };
  const where = `from ${formatMoment(from + start, rate, unit)} to ${formatMoment(to + start, rate, unit)}`;
  return (
    <div
      role="button"
      tabIndex={0}
      aria-label={`${clips} ${clips === 1 ? 'clip' : 'clips'} on ${lane.track.name} ${where}: zoom in`}
      data-crowd={`${from},${to}`}
      onKeyDown={onKeyDown}
      style={{ position: 'absolute', left: x, top: lane.top, width, height: lane.height, cursor: 'zoom-in' }}
    >
      {width > COUNT_ROOM ? (
        <span aria-hidden style={count}>
          {clips}
        </span>
      ) : null}
    </div>
  );
});
