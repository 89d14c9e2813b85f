import type { RetimeMap } from '@hastig/contract';
import { compile } from '@hastig/core';
import { useState } from 'react';
import { xToFrame, type CurveView } from './scale';

/** The stretch of output frames on the screen; null for all. */
type Zoom = { from: number; to: number } | null;

const LEAST_FRAMES = 8;

/** Which part of the curve is seen, with ways to change it. */
export interface ViewControl {
  view: CurveView;
  zoomed: boolean;
  /** Zooms by a factor (above 1: closer) around a pixel. */
  zoomAt(x: number, factor: number): void;
  /** Pans by pixels. */
  pan(pixels: number): void;
  showAll(): void;
}

/** Pixels left of the clip's start when all of it is seen: the speeds' labels stand there. */
const GUTTER = 46;
/** Pixels right of its end. */
const RIM = 10;

/** Highest speed always in sight, so that there is room to drag to. */
const ROOM_ABOVE = 3;

export function useCurveView(map: RetimeMap, size: { width: number; height: number }, held: boolean): ViewControl {
  const [zoom, setZoom] = useState<Zoom>(null);
  const [frozen, setFrozen] = useState<CurveView | null>(null);
  const { length } = compile(map);
  const { low, high } = speedRange(map);
  const perPixel = length / Math.max(1, size.width - GUTTER - RIM);
  const all = { from: -GUTTER * perPixel, to: length + RIM * perPixel };
  const current: CurveView = { ...size, low, high, ...(zoom ?? all) };
  // While something is dragged the picture stands still under the finger.
  if (held && !frozen) setFrozen(current);
  if (!held && frozen) setFrozen(null);
  const view = held && frozen ? { ...frozen, ...size } : current;

  const clamp = (from: number, to: number): Zoom => {
    const span = Math.max(LEAST_FRAMES, to - from);
    if (span >= all.to - all.from) return null;
    const start = Math.min(Math.max(all.from, from), all.to - span);
    return { from: start, to: start + span };
  };
  return {
    view,
    zoomed: zoom !== null,
    zoomAt: (x, factor) => {
      const centre = xToFrame(view, x);
      setZoom(clamp(centre - (centre - view.from) / factor, centre + (view.to - centre) / factor));
    },
    pan: (pixels) => {
      const by = (pixels / view.width) * (view.to - view.from);
      if (zoom) setZoom(clamp(view.from - by, view.to - by));
    },
    showAll: () => setZoom(null),
  };
}

function speedRange(map: RetimeMap): { low: number; high: number } {
  let [low, high] = [0, ROOM_ABOVE];
  for (const span of map.spans) {
    if (span.of !== 'speed') continue;
    low = Math.min(low, ...span.y);
    high = Math.max(high, ...span.y);
  }
  return { low: low < 0 ? low * 1.4 : 0, high: high * 1.25 };
}
