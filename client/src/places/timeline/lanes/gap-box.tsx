import type { Rate, Track } from '@hastig/contract';
import { formatMoment, formatTime, type TimeUnit } from '@hastig/core';
import { memo, type KeyboardEvent } from 'react';
import type { LaneBox } from './lanes-view';

interface GapBoxProps extends LaneBox {
  track: Track;
  rate: Rate;
  unit: TimeUnit;
  /** Frame with which the timecode starts. */
  start: number;
  chosen: boolean;
  onGap(trackId: string, from: number): void;
}

/** A gap between clips: pointed at to be filled. */
export const GapBox = memo(function GapBox(props: GapBoxProps) {
  const { x, width, from, to, top, height, track, rate, unit, start, chosen, onGap } = props;
  const onKeyDown = (event: KeyboardEvent): void => {
    if (event.key !== ' ' && event.key !== 'Enter') return;
    event.preventDefault();
    event.stopPropagation();
    onGap(track.id, from);
  };
  const where = `from ${formatMoment(from + start, rate, unit)}, duration ${formatTime(to - from, rate, unit)}`;
  return (
    <div
      role="button"
      tabIndex={0}
      aria-pressed={chosen}
      aria-label={`Gap on ${track.name}, ${where}`}
      data-gap={track.id}
      data-gap-from={from}
      onKeyDown={onKeyDown}
      style={{
        position: 'absolute',
        left: x + 1,
        top,
        width: Math.max(3, width - 2),
        height,
        boxSizing: 'border-box',
        borderRadius: 6,
        border: `1px dashed rgb(var(--${chosen ? 'bone' : 'line'}))`,
      }}
    />
  );
});
