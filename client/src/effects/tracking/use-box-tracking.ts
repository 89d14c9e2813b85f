import { MOST_TRACKED, type RetimeMap, type Source } from '@hastig/contract';
import { pictureOf, positionAt, sourceFrames, type TrackBox, type TrackedPoint } from '@hastig/core';
import { useMemo, useRef, useState } from 'react';
import { usePutGrip, type StageGrip } from '../../stage/grip-context';
import { useSession } from '../../store/hooks';
import { useTracking, type TrackWay, type Waiting } from './use-tracking';

/** Side of a new box, as a share of the picture's shorter side; and the shortest side a box may have, in pixels. */
const FIRST = 0.12;
const SMALLEST = 8;

/** A box on the stage, and the way to follow what it shows. */
export interface BoxTracking extends Waiting {
  way: TrackWay;
  setWay(way: TrackWay): void;
  begin(): void;
  /** Whether the box is on the stage, which then shows the picture as it was filmed. */
  placing: boolean;
  /** Why this source can't be followed; undefined where it can. */
  tooLong: string | undefined;
}

/**
 * Puts a box on the stage while it is to be placed, and follows what it shows through all of a source.
 *
 * @param active whether a box is to be placed
 */
export function useBoxTracking(
  { source, map, active }: { source: Source; map: RetimeMap; active: boolean },
  onFound: (points: TrackedPoint[], frame: number, box: TrackBox) => void,
): BoxTracking {
  const { playhead } = useSession('playhead');
  const size = pictureOf(source.facts)!;
  const frames = sourceFrames(source);
  const here = Math.min(frames - 1, Math.max(0, Math.floor(positionAt(map, playhead) + 1e-6)));
  const [box, setBox] = useState<TrackBox>(() => firstBox(size));
  // Keys may come faster than what they change is drawn.
  const last = useRef(box);
  const put = (next: TrackBox): void => {
    last.current = next;
    setBox(next);
  };
  const [way, setWay] = useState<TrackWay>({ renewed: false, grey: false });
  const tracking = useTracking(source, frames, onFound);
  const held = useRef(box);
  const placing = active && tracking.progress === null;
  const grip = useMemo<StageGrip | null>(() => {
    if (!placing) return null;
    const move = (x: number, y: number): void =>
      put({ ...held.current, x: held.current.x + x * size.width, y: held.current.y + y * size.height });
    return {
      label: 'Box to track',
      loupe: true,
      corners: cornersOf(box).map(({ x, y }) => ({ x: x / size.width, y: y / size.height })),
      hold: () => (held.current = last.current),
      drag: move,
      step: move,
      scale: (factor) => put(scaledBox(held.current, factor)),
    };
  }, [placing, box, size.width, size.height]);
  usePutGrip(grip);
  const tooLong =
    frames > MOST_TRACKED
      ? `This source has ${frames} frames; up to ${MOST_TRACKED} can be tracked. Cut the file and import the part you need.`
      : undefined;
  return { ...tracking, way, setWay, placing, tooLong, begin: () => tracking.begin(here, last.current, way) };
}

function firstBox({ width, height }: { width: number; height: number }): TrackBox {
  const side = Math.max(SMALLEST, Math.round(FIRST * Math.min(width, height)));
  return { x: (width - side) / 2, y: (height - side) / 2, width: side, height: side };
}

function scaledBox({ x, y, width, height }: TrackBox, factor: number): TrackBox {
  const [wide, high] = [Math.max(SMALLEST, width * factor), Math.max(SMALLEST, height * factor)];
  return { x: x + (width - wide) / 2, y: y + (height - high) / 2, width: wide, height: high };
}

const cornersOf = ({ x, y, width, height }: TrackBox) => [
  { x, y },
  { x: x + width, y },
  { x: x + width, y: y + height },
  { x, y: y + height },
];
