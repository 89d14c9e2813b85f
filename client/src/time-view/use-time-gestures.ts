import { useGesture, type Handler } from '@use-gesture/react';
import { useEffect, useRef, type RefObject } from 'react';
import type { TimeControl } from './use-time-view';

/** A drag of one finger or of the pointer, as the gesture package tells it. */
export type DragHandler = Handler<'drag'>;

interface DragOptions {
  /** Tells taps from drags, and lets a drag begin only after a few pixels. */
  filterTaps: boolean;
}

/**
 * Wheel, pinch and drag on something with a time axis: the wheel zooms, sideways it pans, two fingers do both. One hook for
 * all, so that a drag knows when it has become a pinch.
 */
export function useTimeGestures(
  target: RefObject<HTMLElement | null>,
  time: TimeControl,
  onDrag: DragHandler,
  { filterTaps }: DragOptions,
): void {
  const left = (): number => target.current!.getBoundingClientRect().left;
  useGesture(
    {
      onDrag,
      onPinch: ({ origin, movement: [scale], first, memo }) => {
        const [before, x] = first ? [1, origin[0]] : (memo as [number, number]);
        time.zoomAt(origin[0] - left(), scale / before);
        if (!first) time.pan(origin[0] - x);
        return [scale, origin[0]];
      },
    },
    {
      target,
      eventOptions: { passive: false },
      drag: { filterTaps, pointer: { capture: false, keys: false } },
    },
  );

  // Not by a React property: those listen passively and could not keep the page from zooming.
  const onWheel = useRef<(event: WheelEvent) => void>(() => undefined);
  onWheel.current = (event) => {
    event.preventDefault();
    const { deltaX, deltaY, ctrlKey, shiftKey } = event;
    if (shiftKey) time.pan(-(deltaX || deltaY));
    else if (ctrlKey || Math.abs(deltaY) > Math.abs(deltaX))
      time.zoomAt(event.clientX - left(), Math.exp(-deltaY / 300));
    else time.pan(-deltaX);
  };
  useEffect(() => {
    const element = target.current!;
    const listen = (event: WheelEvent): void => onWheel.current(event);
    element.addEventListener('wheel', listen, { passive: false });
    return () => element.removeEventListener('wheel', listen);
  }, [target]);
}
