import { useDrag } from '@use-gesture/react';
import { useRef, type KeyboardEvent } from 'react';
import { localPoint } from '../time-view/use-size';

/** Share of the width that an arrow key moves the line by; ten times that with Shift. */
const STEP = 0.01;
/** Pixels around the line at which it is held. */
const REACH = 22;

interface WipeLineProps {
  /** Where it is, as a share of the width. */
  at: number;
  /** What is on either side of it. */
  left: string;
  right: string;
  label: string;
  onMove(at: number): void;
  /** Pixels of the picture as it is shown. */
  width: number;
  height: number;
}

/** The line between two pictures. */
export function WipeLine({ at, left, right, label: name, onMove, width, height }: WipeLineProps) {
  const box = useRef<HTMLDivElement>(null);
  const line = useRef<HTMLDivElement>(null);
  const move = (to: number): void => onMove(Math.min(1, Math.max(0, Math.round(to * 1000) / 1000)));
  useDrag(({ xy }) => move(localPoint(box.current!, xy).x / width), {
    target: line,
    pointer: { capture: true, keys: false },
  });
  const onKeyDown = (event: KeyboardEvent): void => {
    const way = { ArrowLeft: -1, ArrowRight: 1 }[event.key];
    if (!way) return;
    event.preventDefault();
    event.stopPropagation();
    move(at + way * STEP * (event.shiftKey ? 10 : 1));
  };
  const label = {
    position: 'absolute',
    top: 6,
    padding: '1px 6px',
    borderRadius: 6,
    background: 'rgb(0 0 0 / 0.6)',
  } as const;
  return (
    <div
      ref={box}
      style={{ position: 'absolute', width, height, pointerEvents: 'none', color: '#ede8df', fontSize: 12 }}
    >
      <div
        ref={line}
        role="slider"
        tabIndex={0}
        aria-label={name}
        aria-valuemin={0}
        aria-valuemax={100}
        aria-valuenow={Math.round(at * 100)}
        onKeyDown={onKeyDown}
        style={{
          position: 'absolute',
          ...{ left: at * width - REACH, width: 2 * REACH, top: 0, bottom: 0 },
          ...{ pointerEvents: 'auto', touchAction: 'none', cursor: 'ew-resize' },
        }}
      >
        <div
          style={{
            ...{ position: 'absolute', left: REACH - 1, width: 2, top: 0, bottom: 0 },
            ...{ background: '#ede8df', boxShadow: '0 0 0 1px rgb(0 0 0 / 0.6)' },
          }}
        />
      </div>
      <span className="font-sans" style={{ ...label, right: (1 - at) * width + 8 }}>
        {left}
      </span>
      <span className="font-sans" style={{ ...label, left: at * width + 8 }}>
        {right}
      </span>
    </div>
  );
}
