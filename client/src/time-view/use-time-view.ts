import { useState } from 'react';

/** A stretch of output time on the screen. */
export interface TimeView {
  /** Output frames at the left and right edge (real). */
  from: number;
  to: number;
  /** Pixels. */
  width: number;
}

export function frameToX(view: TimeView, frame: number): number {
  return ((frame - view.from) / (view.to - view.from)) * view.width;
}

export function xToFrame(view: TimeView, x: number): number {
  return view.from + (x / view.width) * (view.to - view.from);
}

/** Which part of the clip is seen, with ways to change it; threads and curve share it. */
export interface TimeControl {
  view: TimeView;
  zoomed: boolean;
  /** Zooms by a factor (above 1: closer) around a pixel. */
  zoomAt(x: number, factor: number): void;
  /** Pans by pixels. */
  pan(pixels: number): void;
  showAll(): void;
  /** Shows a stretch of output frames, with a little around it. */
  show(from: number, to: number): void;
  /** While something is dragged the picture stands still under the finger. */
  hold(held: boolean): void;
  held: boolean;
}

const LEAST_FRAMES = 8;
/** Pixels left of the clip's start when all of it is seen: the axes' labels stand there. */
const GUTTER = 46;
/** Pixels right of its end. */
const RIM = 10;

/**
 * @param length of the clip in output frames
 * @param least frames that are seen at once at the closest
 */
export function useTimeView(length: number, width: number, least = LEAST_FRAMES): TimeControl {
  const [zoom, setZoom] = useState<{ from: number; to: number } | null>(null);
  const [frozen, setFrozen] = useState<TimeView | null>(null);
  const perPixel = length / Math.max(1, width - GUTTER - RIM);
  const all = { from: -GUTTER * perPixel, to: length + RIM * perPixel };
  // What is zoomed stands still by itself, and may be scrolled meanwhile.
  const view = (zoom ? null : frozen) ?? { width, ...(zoom ?? all) };

  const clamp = (from: number, to: number): { from: number; to: number } | null => {
    const span = Math.max(least, to - from);
    if (span >= all.to - all.from) return null;
    const start = Math.min(Math.max(all.from, from), all.to - span);
    return { from: start, to: start + span };
  };
  return {
    view,
    zoomed: zoom !== null,
    // From what is seen by then: several wheels and pinches may come between two drawings.
    zoomAt: (x, factor) =>
      setZoom((now) => {
        const seen = { width, ...(now ?? all) };
        const centre = xToFrame(seen, x);
        return clamp(centre - (centre - seen.from) / factor, centre + (seen.to - centre) / factor);
      }),
    pan: (pixels) =>
      setZoom((now) => {
        if (!now) return now;
        const by = (pixels / width) * (now.to - now.from);
        return clamp(now.from - by, now.to - by);
      }),
    showAll: () => setZoom(null),
    show: (from, to) => {
      const around = (to - from) * 0.15 + 1;
      setZoom(clamp(from - around, to + around));
    },
    hold: (held) => setFrozen(held ? view : null),
    held: frozen !== null,
  };
}
