import { useDrag } from '@use-gesture/react';
import { useRef, type CSSProperties, type KeyboardEvent } from 'react';

/** Pixels that an arrow key moves a divider. */
const STEP = 24;

interface DividerProps {
  label: string;
  /** Whether it stands upright between two columns, or lies between two rows. */
  upright: boolean;
  /** Pixels across it. */
  thickness: number;
  /** Pixels before it, of `length`. */
  value: number;
  length: number;
  /** Asked for other pixels before it; the owner keeps them in bounds. */
  onMove(value: number): void;
  /** Tapped, or Enter: goes between two places. */
  onToggle(): void;
  style?: CSSProperties;
}

/** What is dragged to share room between two parts of a window (WAI-ARIA Authoring Practices, window splitter pattern). */
export function Divider({ label, upright, thickness, value, length, onMove, onToggle, style }: DividerProps) {
  const bar = useRef<HTMLDivElement>(null);
  useDrag(
    ({ movement: [mx, my], first, memo = value, tap, event }) => {
      event.stopPropagation();
      if (tap) onToggle();
      else if (!first) onMove((memo as number) + (upright ? mx : my));
      return memo as number;
    },
    { target: bar, filterTaps: true, pointer: { keys: false } },
  );
  const keys: Record<string, () => void> = {
    [upright ? 'ArrowLeft' : 'ArrowUp']: () => onMove(value - STEP),
    [upright ? 'ArrowRight' : 'ArrowDown']: () => onMove(value + STEP),
    Home: () => onMove(0),
    End: () => onMove(length),
    Enter: onToggle,
  };
  const onKeyDown = (event: KeyboardEvent): void => {
    const run = keys[event.key];
    if (!run) return;
    event.preventDefault();
    event.stopPropagation();
    run();
  };
  return (
    <div
      ref={bar}
      role="separator"
      aria-label={label}
      aria-orientation={upright ? 'vertical' : 'horizontal'}
      aria-valuemin={0}
      aria-valuemax={100}
      aria-valuenow={Math.round((100 * value) / Math.max(1, length))}
      tabIndex={0}
      onKeyDown={onKeyDown}
      className="divider"
      style={{ ...style, [upright ? 'width' : 'height']: thickness, cursor: upright ? 'col-resize' : 'row-resize' }}
    >
      <div className={upright ? 'divider-grip upright' : 'divider-grip'} />
    </div>
  );
}
