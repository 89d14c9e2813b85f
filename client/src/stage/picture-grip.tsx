import { useGesture } from '@use-gesture/react';
import { useEffect, useRef, useState, type KeyboardEvent, type RefObject } from 'react';
import type { StageGrip } from './grip-context';
import { Loupe } from './loupe';

/** Share of the picture that an arrow key moves by; ten times that with Shift. */
const STEP = 0.01;
/** By how much + and − change the size. */
const SIZE_STEP = 1.05;

const arrows: Readonly<Record<string, readonly [number, number]>> = {
  ArrowLeft: [-STEP, 0],
  ArrowRight: [STEP, 0],
  ArrowUp: [0, -STEP],
  ArrowDown: [0, STEP],
};

/** Lies over the stage's picture: moves what is held with one finger or the pointer, changes its size with two or the wheel. */
interface PictureGripProps {
  grip: StageGrip;
  /** The canvas beneath it, and in how many pixels of the page it is shown. */
  picture: RefObject<HTMLCanvasElement | null>;
  width: number;
  height: number;
}

export function PictureGrip({ grip, picture, width, height }: PictureGripProps) {
  const target = useRef<HTMLDivElement>(null);
  const now = useRef(grip);
  now.current = grip;
  const [held, setHeld] = useState(false);
  useGesture(
    {
      onDrag: ({ movement: [x, y], first, last, pinching, cancel, altKey }) => {
        setHeld(!last && !pinching);
        if (pinching) return cancel();
        if (first) now.current.hold();
        now.current.drag(x / width, y / height, altKey);
      },
      onPinch: ({ movement: [factor], first }) => {
        if (first) now.current.hold();
        now.current.scale(factor);
      },
    },
    {
      target,
      eventOptions: { passive: false },
      drag: { filterTaps: true, pointer: { capture: false, keys: false } },
      pinch: { pointer: { touch: true } },
    },
  );
  // Not by a React property: those listen passively and could not keep the page from scrolling.
  useEffect(() => {
    const element = target.current!;
    const onWheel = (event: WheelEvent): void => {
      event.preventDefault();
      now.current.hold();
      now.current.scale(Math.exp(-event.deltaY / 500));
    };
    element.addEventListener('wheel', onWheel, { passive: false });
    return () => element.removeEventListener('wheel', onWheel);
  }, []);

  const onKeyDown = (event: KeyboardEvent): void => {
    const by = arrows[event.key];
    const size = { '+': SIZE_STEP, '-': 1 / SIZE_STEP }[event.key];
    if (!by && !size) return;
    event.preventDefault();
    event.stopPropagation();
    const times = event.shiftKey ? 10 : 1;
    grip.hold();
    if (by) grip.step(by[0] * times, by[1] * times);
    else if (size) grip.scale(size);
  };
  const pointsOf = (corners: StageGrip['corners']): string =>
    corners.map(({ x, y }) => `${x * width},${y * height}`).join(' ');
  const points = pointsOf(grip.corners);
  return (
    <div
      ref={target}
      role="group"
      tabIndex={0}
      aria-label={`${grip.label}: arrow keys move it, plus and minus change its size`}
      onKeyDown={onKeyDown}
      style={{ position: 'absolute', width, height, touchAction: 'none', cursor: 'move', overflow: 'hidden' }}
    >
      <svg width={width} height={height} aria-hidden style={{ display: 'block' }}>
        {grip.beside?.map(({ word, corners }) => (
          <g key={word}>
            <polygon points={pointsOf(corners)} fill="none" stroke="rgb(var(--ink))" strokeWidth={3} />
            <polygon
              points={pointsOf(corners)}
              fill="none"
              stroke="rgb(var(--bone))"
              strokeWidth={1.5}
              strokeDasharray="6 5"
            />
            <text
              x={corners[0]!.x * width + 6}
              y={corners[0]!.y * height + 16}
              fill="rgb(var(--bone))"
              stroke="rgb(var(--ink))"
              strokeWidth={3}
              paintOrder="stroke"
              fontSize={13}
              fontFamily="SchibstedGrotesk_600SemiBold, sans-serif"
            >
              {word}
            </text>
          </g>
        ))}
        {/* Seen on bright and dark pictures alike. */}
        <polygon points={points} fill="none" stroke="rgb(var(--ink))" strokeWidth={4} />
        <polygon points={points} fill="none" stroke="rgb(var(--bone))" strokeWidth={2} />
      </svg>
      {held && grip.loupe && picture.current ? (
        <Loupe picture={picture.current} {...middleOf(grip.corners)} width={width} height={height} />
      ) : null}
    </div>
  );
}

/** The middle of a box, and how large it is, in shares of the picture. */
function middleOf(corners: StageGrip['corners']) {
  const [a, , c] = corners;
  return {
    at: { x: (a!.x + c!.x) / 2, y: (a!.y + c!.y) / 2 },
    box: { width: c!.x - a!.x, height: c!.y - a!.y },
  };
}
