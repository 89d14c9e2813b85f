import { useEffect, useRef } from 'react';
import { useStage } from '../../stage/stage-context';
import { useSession } from '../../store/hooks';
import { colour } from '../../ui/palette';
import { currentTheme } from '../../ui/theme';
import { sizedContext, useSize } from '../../time-view/use-size';

/** Decibels below full scale at which the meter begins. */
const LOWEST = -60;
/** Decibels a second by which it falls, and milliseconds for which a peak is held. */
const FALL = 24;
const HELD = 1500;
/** From here on it is drawn as loud, and from there as too loud. */
const LOUD = -12;
const TOO_LOUD = -1;

interface Side {
  level: number;
  peak: number;
  peakAt: number;
}

const decibels = (level: number): number => (level > 0 ? Math.max(LOWEST, 20 * Math.log10(level)) : LOWEST);

/** How loud left and right are while it plays: bars that rise at once and fall slowly, and the highest of the last moments. */
export function Meters() {
  const { levels } = useStage();
  const { playing } = useSession('playing');
  const target = useRef<HTMLDivElement>(null);
  const canvas = useRef<HTMLCanvasElement>(null);
  const size = useSize(target);
  const held = useRef<Side[]>([0, 1].map(() => ({ level: LOWEST, peak: LOWEST, peakAt: 0 })));
  const theme = currentTheme();
  useEffect(() => {
    const sides = held.current;
    let before = performance.now();
    let drawn = '';
    let request = 0;
    const draw = (now: number): void => {
      const heard = levels();
      sides.forEach((side, index) => {
        const level = decibels(heard[index as 0 | 1]);
        side.level = Math.max(level, side.level - (FALL * (now - before)) / 1000);
        if (level >= side.peak || now - side.peakAt > HELD) [side.peak, side.peakAt] = [level, now];
      });
      before = now;
      const said = sides.map(({ level, peak }) => `${level.toFixed(1)} ${peak.toFixed(1)}`).join(' ');
      // Once nothing plays and all has fallen there is nothing more to draw.
      const resting = sides.every(({ level, peak }) => level === LOWEST && peak === LOWEST);
      if (playing || !resting) request = requestAnimationFrame(draw);
      if (said === drawn) return;
      drawn = said;
      drawMeters(sizedContext(canvas.current!, size), size, sides);
      const most = Math.max(sides[0]!.peak, sides[1]!.peak);
      target.current!.ariaValueNow = most.toFixed(1);
      target.current!.ariaValueText = most <= LOWEST ? 'silent' : `${most.toFixed(1)} dB`;
    };
    request = requestAnimationFrame(draw);
    return () => cancelAnimationFrame(request);
  }, [levels, playing, size, theme]);
  return (
    <div
      ref={target}
      role="meter"
      aria-label="Level"
      aria-valuemin={LOWEST}
      aria-valuemax={0}
      style={{ position: 'relative', flex: 1, minWidth: 90, height: 30 }}
    >
      <canvas ref={canvas} style={{ position: 'absolute', inset: 0, width: '100%', height: '100%' }} />
    </div>
  );
}

function drawMeters(
  context: OffscreenCanvasRenderingContext2D,
  { width, height }: { width: number; height: number },
  sides: readonly Side[],
): void {
  const x = (level: number): number => ((level - LOWEST) / -LOWEST) * width;
  sides.forEach(({ level, peak }, index) => {
    const [top, high] = [4 + index * (height / 2 - 2), height / 2 - 6];
    context.fillStyle = colour('line');
    context.fillRect(0, top, width, high);
    for (const [from, to, tone] of [
      [LOWEST, LOUD, 'slow'],
      [LOUD, TOO_LOUD, 'bone'],
      [TOO_LOUD, 0, 'fast'],
    ] as const) {
      if (level <= from) continue;
      context.fillStyle = colour(tone);
      context.fillRect(x(from), top, x(Math.min(level, to)) - x(from), high);
    }
    if (peak > LOWEST) {
      context.fillStyle = colour(peak > TOO_LOUD ? 'fast' : 'bone');
      context.fillRect(Math.min(width - 2, x(peak)), top, 2, high);
    }
  });
}
