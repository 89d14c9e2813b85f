import { useEffect, useState, type RefObject } from 'react';

/** An element's size in pixels, kept up to date; 1×1 until it is known, and where it is not there. */
export function useSize(target: RefObject<HTMLElement | null>): { width: number; height: number } {
  const [size, setSize] = useState({ width: 1, height: 1 });
  useEffect(() => {
    const observer = new ResizeObserver(([entry]) => {
      const { width, height } = entry!.contentRect;
      setSize({ width: Math.max(1, width), height: Math.max(1, height) });
    });
    if (target.current) observer.observe(target.current);
    return () => observer.disconnect();
  }, [target]);
  return size;
}

const surfaces = new WeakMap<HTMLCanvasElement, OffscreenCanvas>();

/**
 * Makes a canvas as large as its place on this screen and gives the context to draw on, in CSS pixels.
 *
 * The surface is taken off the element: setting a font on a canvas that stands in the page makes the browser work out the
 * page's styles first, which costs more than the whole drawing.
 */
export function sizedContext(
  canvas: HTMLCanvasElement,
  size: { width: number; height: number },
): OffscreenCanvasRenderingContext2D {
  let surface = surfaces.get(canvas);
  if (!surface) {
    surface = canvas.transferControlToOffscreen();
    surfaces.set(canvas, surface);
  }
  const ratio = devicePixelRatio || 1;
  const [width, height] = [Math.round(size.width * ratio), Math.round(size.height * ratio)];
  if (surface.width !== width || surface.height !== height) [surface.width, surface.height] = [width, height];
  const context = surface.getContext('2d')!;
  context.setTransform(ratio, 0, 0, ratio, 0, 0);
  context.clearRect(0, 0, size.width, size.height);
  return context;
}

/** A point of the window, in pixels, as a point of an element. */
export function localPoint(element: HTMLElement, [x, y]: readonly [number, number]): { x: number; y: number } {
  const { left, top } = element.getBoundingClientRect();
  return { x: x - left, y: y - top };
}
