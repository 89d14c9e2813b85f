import type { ProjectDocument } from '@hastig/contract';
import { findContainer, layoutOf, shownSpeedIn } from '@hastig/core';
import { useDrag } from '@use-gesture/react';
import { memo, useEffect, useRef } from 'react';
import { useStage } from '../../stage/stage-context';
import { useSession } from '../../store/hooks';
import { localPoint, sizedContext, useSize } from '../../time-view/use-size';
import type { TimeControl } from '../../time-view/use-time-view';
import { speedColour } from '../../ui/palette';
import { currentTheme } from '../../ui/theme';
import { useStable } from '../../ui/use-stable';
import { tracksInOrder } from './lanes/lanes-view';

const HEIGHT = 34;
/** Pixels from which a bar's corners are seen to be round. */
const ROUND = 6;

interface OverviewProps {
  containerId: string;
  project: ProjectDocument;
  /** Frames that lie from its left to its right end. */
  frames: number;
  time: TimeControl;
}

/** All of the sequence at once, with a window on the part that is seen closer; a tap goes there. */
export function Overview({ containerId, project, frames, time }: OverviewProps) {
  const target = useRef<HTMLDivElement>(null);
  const { width } = useSize(target);
  const { seek } = useStage();
  const { playhead } = useSession('playhead');
  useDrag(
    ({ xy }) => {
      const at = Math.max(0, Math.min(frames, (localPoint(target.current!, xy).x / width) * frames));
      seek(at);
      const { from, to } = time.view;
      if (time.zoomed) time.pan((((from + to) / 2 - at) / (to - from)) * time.view.width);
    },
    { target, pointer: { capture: false, keys: false } },
  );
  const percent = (frame: number): string => `${Math.min(100, Math.max(0, (frame / frames) * 100))}%`;
  const { from, to } = time.view;
  return (
    <div
      ref={target}
      role="group"
      aria-label="Overview"
      data-testid="overview"
      style={{
        position: 'relative',
        height: HEIGHT,
        flex: 'none',
        overflow: 'hidden',
        background: 'rgb(var(--raised))',
        touchAction: 'none',
      }}
    >
      <Bars {...{ containerId, project, frames }} />
      <div
        aria-hidden
        style={{
          position: 'absolute',
          top: 0,
          bottom: 0,
          left: percent(from),
          width: `calc(${percent(to)} - ${percent(from)})`,
          boxSizing: 'border-box',
          border: '2px solid rgb(var(--bone))',
          borderRadius: 4,
          pointerEvents: 'none',
        }}
      />
      <div
        aria-hidden
        style={{
          position: 'absolute',
          top: 0,
          bottom: 0,
          width: 2,
          left: percent(playhead),
          background: 'rgb(var(--bone))',
          pointerEvents: 'none',
        }}
      />
    </div>
  );
}

// Drawn, not made of elements: there may be thousands.
const Bars = memo(function Bars({ containerId, project, frames }: Omit<OverviewProps, 'time'>) {
  const canvas = useRef<HTMLCanvasElement>(null);
  const { width, height } = useSize(canvas);
  const theme = currentTheme();
  const draw = useStable(() => {
    const context = sizedContext(canvas.current!, { width, height });
    const container = findContainer(project, containerId)!;
    const tracks = tracksInOrder(container);
    const lane = (HEIGHT - 8) / tracks.length;
    context.globalAlpha = 0.75;
    tracks.forEach(({ track }, row) => {
      let end = -1;
      for (const { clip, from, to } of layoutOf(project, track)) {
        const [left, right] = [(from / frames) * width, (to / frames) * width];
        // What ends in the column of pixels that is drawn already cannot be told from it.
        if (!clip || right < end) continue;
        context.fillStyle = speedColour(shownSpeedIn(project, clip, container.rate));
        const wide = Math.max(1, right - left - 1);
        const [top, high] = [4 + row * lane, Math.max(2, lane - 2)];
        if (wide < ROUND) {
          context.fillRect(left, top, wide, high);
        } else {
          context.beginPath();
          context.roundRect(left, top, wide, high, 3);
          context.fill();
        }
        end = Math.floor(right) + 1;
      }
    });
  });
  // In a task of its own: what was edited is seen in the lanes before all of the film is drawn small.
  useEffect(() => {
    const later = setTimeout(draw);
    return () => clearTimeout(later);
  }, [draw, project, containerId, frames, width, height, theme]);
  return <canvas ref={canvas} aria-hidden style={{ position: 'absolute', inset: 0, width: '100%', height: '100%' }} />;
});
