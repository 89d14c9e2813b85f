import { usePinch } from '@use-gesture/react';
import { useEffect, useRef, type RefObject } from 'react';
import type { TimeControl } from './use-time-view';

/** Wheel and pinch on something with a time axis: the wheel zooms, sideways it pans, two fingers do both. */
export function useTimeGestures(target: RefObject<HTMLElement | null>, time: TimeControl): void {
  const left = (): number => target.current!.getBoundingClientRect().left;
  usePinch(
    ({ origin, movement: [scale], first, memo }) => {
      const [before, x] = first ? [1, origin[0]] : (memo as [number, number]);
      time.zoomAt(origin[0] - left(), scale / before);
      if (!first) time.pan(origin[0] - x);
      return [scale, origin[0]];
    },
    { target, eventOptions: { passive: false } },
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
