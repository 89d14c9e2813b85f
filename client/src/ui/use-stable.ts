import { useCallback, useLayoutEffect, useRef } from 'react';

/**
 * The same function for as long as a view is shown, which does what the one given last does: for handing to views that are
 * drawn anew only when something of theirs changes. It is for events; while drawing it must not be called.
 */
export function useStable<A extends unknown[], R>(latest: (...args: A) => R): (...args: A) => R {
  const kept = useRef(latest);
  useLayoutEffect(() => {
    kept.current = latest;
  });
  return useCallback((...args: A) => kept.current(...args), []);
}
