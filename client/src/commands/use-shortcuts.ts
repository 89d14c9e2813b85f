import { useEffect, useRef } from 'react';
import { holdsKeys } from '../ui/last-input';

/** Keys by name as the browser gives them, with `mod+` for Control or Command and `shift+`. */
type Shortcuts = Readonly<Record<string, () => void>>;

function nameOf(event: KeyboardEvent): string {
  const key = event.key === ' ' ? 'space' : event.key.length === 1 ? event.key.toLowerCase() : event.key;
  const mod = event.ctrlKey || event.metaKey ? 'mod+' : '';
  // Shift only makes a sign of it on some keyboards: `?` is `?`, however it is typed.
  const shift = event.shiftKey && !/^[^\p{L}\p{N}]$/u.test(key) ? 'shift+' : '';
  return `${mod}${shift}${key}`;
}

/** Keys that press what they are on. */
const presses = new Set(['space', 'Enter']);

/**
 * Listens to keys while shown; not while something is being typed, nor where a control that the keyboard has reached has a use
 * for the key. A control that was clicked has none: its keys are the place's.
 */
export function useShortcuts(shortcuts: Shortcuts): void {
  const latest = useRef(shortcuts);
  latest.current = shortcuts;
  useEffect(() => {
    const listen = (event: KeyboardEvent): void => {
      const target = event.target as HTMLElement;
      if (/^(INPUT|TEXTAREA|SELECT)$/.test(target.tagName) || event.defaultPrevented) return;
      const held = holdsKeys(target);
      // A control that holds the keys comes first; one that does not never hears of them.
      if (held === (event.eventPhase === Event.CAPTURING_PHASE)) return;
      const name = nameOf(event);
      if (held && presses.has(name) && target.closest('[role=button],[role=radio],[role=checkbox],[role=link],a'))
        return;
      const run = latest.current[name];
      if (!run) return;
      event.preventDefault();
      if (!held) event.stopImmediatePropagation();
      run();
    };
    globalThis.addEventListener('keydown', listen, true);
    globalThis.addEventListener('keydown', listen);
    return () => {
      globalThis.removeEventListener('keydown', listen, true);
      globalThis.removeEventListener('keydown', listen);
    };
  }, []);
}
