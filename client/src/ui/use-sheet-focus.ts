import { useLayoutEffect, useRef, type RefObject } from 'react';
import { lastInputByKeys } from './last-input';

/**
 * Takes the keyboard into a sheet that was opened with it, to the first entry or else to the sheet itself, and back to where
 * it was when the sheet closes (WAI-ARIA Authoring Practices, dialog pattern). A sheet opened by pointer leaves the keyboard
 * where it is: on a phone an entry with the focus would bring up the screen's keyboard over the picture.
 */
export function useSheetFocus(): RefObject<HTMLElement | null> {
  const sheet = useRef<HTMLElement>(null);
  useLayoutEffect(() => {
    const element = sheet.current!;
    const before = document.activeElement;
    if (lastInputByKeys()) (element.querySelector<HTMLElement>('input:not(:disabled)') ?? element).focus();
    return () => {
      const inside = element.contains(document.activeElement);
      if (inside && before instanceof HTMLElement && before.isConnected) before.focus({ preventScroll: true });
    };
  }, []);
  return sheet;
}
