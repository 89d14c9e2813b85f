import { useEffect, useRef, useState } from 'react';
import { useAppDispatch, useAppSelector } from '../store/hooks';
import { fullScreenSet } from '../store/session-slice';

/** Milliseconds without a touch after which controls leave a picture that plays. */
const IDLE = 2500;

/**
 * Whether the picture fills the screen. The browser's own full screen goes with it where there is one; without it, as on some
 * phones, the picture fills the window.
 */
export function useFullScreen(): boolean {
  const dispatch = useAppDispatch();
  const full = useAppSelector((state) => state.session.fullScreen);
  useEffect(() => {
    if (!full) return undefined;
    const leave = (): void => void dispatch(fullScreenSet(false));
    const changed = (): void => {
      if (!document.fullscreenElement) leave();
    };
    const pressed = (event: KeyboardEvent): void => {
      if (event.key !== 'Escape') return;
      event.stopImmediatePropagation();
      leave();
    };
    document.addEventListener('fullscreenchange', changed);
    globalThis.addEventListener('keydown', pressed, true);
    // Refused where it was not asked for by hand; the window is filled all the same.
    document.documentElement.requestFullscreen?.().catch(() => undefined);
    return () => {
      document.removeEventListener('fullscreenchange', changed);
      globalThis.removeEventListener('keydown', pressed, true);
      if (document.fullscreenElement) void document.exitFullscreen();
    };
  }, [dispatch, full]);
  return full;
}

const isStill = ({ movementX, movementY }: PointerEvent): boolean => movementX === 0 && movementY === 0;

/**
 * Whether controls lie over a full picture: always at rest; while it plays only for a while after a touch, a key or the mouse.
 *
 * @returns whether they are shown, and what turns them on and off
 */
export function useOverlay(full: boolean): readonly [shown: boolean, toggle: () => void] {
  const playing = useAppSelector((state) => state.session.playing);
  const [awake, setAwake] = useState(true);
  const timer = useRef<ReturnType<typeof setTimeout>>(undefined);
  useEffect(() => {
    if (!full || !playing) return undefined;
    const wake = (event: Event): void => {
      // A finger's touch shows and hides them by what it taps; and browsers tell of moves that were none, after a layout.
      if (event instanceof PointerEvent && (event.pointerType === 'touch' || isStill(event))) return;
      setAwake(true);
      rest();
    };
    const rest = (): void => {
      clearTimeout(timer.current);
      timer.current = setTimeout(() => setAwake(false), IDLE);
    };
    rest();
    document.addEventListener('pointermove', wake);
    document.addEventListener('keydown', wake);
    return () => {
      clearTimeout(timer.current);
      setAwake(true);
      document.removeEventListener('pointermove', wake);
      document.removeEventListener('keydown', wake);
    };
  }, [full, playing]);
  const toggle = (): void => {
    clearTimeout(timer.current);
    setAwake((now) => !now);
  };
  return [!full || awake, toggle];
}
