import { useEffect, useRef } from 'react';

/** Keys by name as the browser gives them, with `mod+` for Control or Command and `shift+`. */
type Shortcuts = Readonly<Record<string, () => void>>;

function nameOf(event: KeyboardEvent): string {
  const key = event.key === ' ' ? 'space' : event.key.length === 1 ? event.key.toLowerCase() : event.key;
  const mod = event.ctrlKey || event.metaKey ? 'mod+' : '';
  // Shift only makes a sign of it on some keyboards: `?` is `?`, however it is typed.
  const shift = event.shiftKey && !/^[^\p{L}\p{N}]$/u.test(key) ? 'shift+' : '';
  return `${mod}${shift}${key}`;
}

/** Listens to keys while shown; not while something is being typed or a button has the space bar. */
export function useShortcuts(shortcuts: Shortcuts): void {
  const latest = useRef(shortcuts);
  latest.current = shortcuts;
  useEffect(() => {
    const listen = (event: KeyboardEvent): void => {
      const target = event.target as HTMLElement;
      if (/^(INPUT|TEXTAREA|SELECT)$/.test(target.tagName) || event.defaultPrevented) return;
      const name = nameOf(event);
      if ((name === 'space' || name === 'Enter') && target.closest('[role=button],[role=radio],a')) return;
      const run = latest.current[name];
      if (!run) return;
      event.preventDefault();
      run();
    };
    globalThis.addEventListener('keydown', listen);
    return () => globalThis.removeEventListener('keydown', listen);
  }, []);
}
