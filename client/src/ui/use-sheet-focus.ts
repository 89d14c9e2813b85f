import { useLayoutEffect, useRef, type RefObject } from 'react';
import { focusAgain, lastInputByKeys } from './last-input';

/**
 * Takes the keyboard into a sheet that was opened with it, and back to where it was when the sheet closes (WAI-ARIA Authoring
 * Practices, dialog pattern). A sheet opened by pointer leaves the keyboard where it is: on a phone an entry with the focus
 * would bring up the screen's keyboard over the picture.
 *
 * @param toEntry to its first entry, for a form that is filled in; else to the sheet itself, where the place's keys still hold
 */
export function useSheetFocus(toEntry: boolean): RefObject<HTMLElement | null> {
  const sheet = useRef<HTMLElement>(null);
  useLayoutEffect(() => {
    const element = sheet.current!;
    const before = document.activeElement;
    const entry = toEntry && element.querySelector<HTMLElement>('input:not(:disabled, [type=file])');
    if (lastInputByKeys()) (entry || element).focus();
    return () => {
      const inside = element.contains(document.activeElement);
      if (inside && before instanceof HTMLElement && before.isConnected) focusAgain(before);
    };
  }, []);
  return sheet;
}
