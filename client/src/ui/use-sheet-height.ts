import { useState, type RefObject } from 'react';
import { useSize } from '../time-view/use-size';
import type { Arrangement } from './use-wide';

/** Pixels of a pushed-down sheet: its title, and what it is pulled by. */
const PEEK = 64;
/** Pixels below which a sheet that is let go is pushed down, and from the top within which it is pulled up. */
const NEAR = 48;
/** Pixels of a phone's strip and divider, which a sheet that is pulled up leaves in sight. */
const KEPT = 128;

/** How high a sheet is: as its content asks, pushed down to its title, all the way up, or as many pixels as it was pulled to. */
type Height = 'content' | 'peek' | 'full' | number;

interface SheetHeight {
  height: Height;
  style: { height?: number };
  /** Pixels from the top down to the sheet, of `length`. */
  value: number;
  length: number;
  move(value: number): void;
  toggle(): void;
}

/** A sheet that is pulled up and pushed down by hand. */
export function useSheetHeight(sheet: RefObject<HTMLElement | null>, arrangement: Arrangement): SheetHeight {
  const [height, setHeight] = useState<Height>('content');
  const now = useSize(sheet).height;
  const work = sheet.current?.closest('.work')?.getBoundingClientRect();
  const bottom = sheet.current?.getBoundingClientRect().bottom ?? now;
  const top = (work?.top ?? 0) + (arrangement === 'phone' ? KEPT : 0);
  const length = Math.max(PEEK, bottom - top);
  const move = (value: number): void => {
    const wanted = length - value;
    if (wanted < PEEK + NEAR) setHeight('peek');
    else setHeight(wanted > length - NEAR ? 'full' : wanted);
  };
  const toggle = (): void => setHeight(height === 'content' ? 'full' : 'content');
  // Turned or made smaller, no sheet is higher than its window.
  const style = typeof height === 'number' ? { height: Math.min(height, length) } : {};
  return { height, style, value: length - Math.min(now, length), length, move, toggle };
}
