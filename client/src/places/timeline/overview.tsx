import type { ProjectDocument } from '@hastig/contract';
import { findContainer, layoutOf, shownSpeed } from '@hastig/core';
import { useDrag } from '@use-gesture/react';
import { memo, useMemo, useRef } from 'react';
import { useStage } from '../../stage/stage-context';
import { useSession } from '../../store/hooks';
import { localPoint, useSize } from '../../time-view/use-size';
import type { TimeControl } from '../../time-view/use-time-view';
import { speedColour } from '../../ui/palette';
import { tracksInOrder } from './lanes/lanes-view';

const HEIGHT = 34;

export interface OverviewProps {
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

const Bars = memo(function Bars({ containerId, project, frames }: Omit<OverviewProps, 'time'>) {
  const bars = useMemo(() => {
    const tracks = tracksInOrder(findContainer(project, containerId)!);
    const height = (HEIGHT - 8) / tracks.length;
    return tracks.flatMap(({ track }, row) =>
      layoutOf(project, track).flatMap(({ clip, from, to }) =>
        clip ? [{ id: clip.id, from, to, top: 4 + row * height, height, speed: shownSpeed(project, clip.id) }] : [],
      ),
    );
  }, [project, containerId]);
  return (
    <>
      {bars.map(({ id, from, to, top, height, speed }) => (
        <div
          key={id}
          aria-hidden
          style={{
            position: 'absolute',
            left: `${(from / frames) * 100}%`,
            width: `${((to - from) / frames) * 100}%`,
            top,
            height: Math.max(2, height - 2),
            borderRadius: 3,
            boxSizing: 'border-box',
            borderRight: '1px solid rgb(var(--ink))',
            background: speedColour(speed),
            opacity: 0.75,
          }}
        />
      ))}
    </>
  );
});
