import { useEffect, useRef } from 'react';

/** Pixels across, how much larger it shows, and how far from the edge it lies. */
const SIDE = 116;
const LARGER = 4;
const ASIDE = 8;

interface LoupeProps {
  /** The canvas that shows the picture. */
  picture: HTMLCanvasElement;
  /** What is looked at, in shares of the picture; and a mark around it, as wide and high. */
  at: { x: number; y: number };
  box: { width: number; height: number };
  /** Pixels of the page in which the picture is shown. */
  width: number;
  height: number;
}

/** What lies under a finger, larger: in the corner that is further away from it. */
export function Loupe({ picture, at, box, width, height }: LoupeProps) {
  const canvas = useRef<HTMLCanvasElement>(null);
  useEffect(() => {
    // As the page draws: what is decoded meanwhile is seen too.
    let next = requestAnimationFrame(function draw() {
      next = requestAnimationFrame(draw);
      const context = canvas.current?.getContext('2d');
      if (!context || picture.width === 0) return;
      const [wide, high] = [SIDE / LARGER / width, SIDE / LARGER / height];
      context.fillStyle = '#000';
      context.fillRect(0, 0, SIDE, SIDE);
      context.drawImage(
        picture,
        (at.x - wide / 2) * picture.width,
        (at.y - high / 2) * picture.height,
        wide * picture.width,
        high * picture.height,
        ...([0, 0, SIDE, SIDE] as const),
      );
    });
    return () => cancelAnimationFrame(next);
  }, [picture, at.x, at.y, width, height]);
  const [across, down] = [box.width * width * LARGER, box.height * height * LARGER];
  return (
    <div
      role="img"
      aria-label="What lies in the box, larger"
      style={{
        position: 'absolute',
        top: ASIDE,
        ...(at.x > 0.5 ? { left: ASIDE } : { right: ASIDE }),
        width: SIDE,
        height: SIDE,
        borderRadius: SIDE / 2,
        overflow: 'hidden',
        border: '2px solid rgb(var(--bone))',
        boxShadow: '0 0 0 2px rgb(var(--ink))',
        pointerEvents: 'none',
      }}
    >
      <canvas ref={canvas} width={SIDE} height={SIDE} style={{ display: 'block' }} />
      <svg width={SIDE} height={SIDE} aria-hidden style={{ position: 'absolute', inset: 0 }}>
        <rect
          x={(SIDE - across) / 2}
          y={(SIDE - down) / 2}
          width={across}
          height={down}
          fill="none"
          stroke="rgb(var(--bone))"
          strokeWidth={1.5}
        />
        <path
          d={`M${SIDE / 2 - 7} ${SIDE / 2}h14M${SIDE / 2} ${SIDE / 2 - 7}v14`}
          stroke="rgb(var(--bone))"
          strokeWidth={1.5}
        />
      </svg>
    </div>
  );
}
