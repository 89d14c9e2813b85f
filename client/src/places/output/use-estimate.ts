import { estimate, type RenderJob } from '@hastig/engine';
import { useRef, useState } from 'react';

/** Seconds in words that say no more than is known: `less than 5 s`, `about 40 s`, `about 12 min`. */
export function aboutSeconds(seconds: number): string {
  if (seconds < 5) return 'less than 5 s';
  if (seconds < 90) return `about ${Math.round(seconds / 5) * 5} s`;
  if (seconds < 5400) return `about ${Math.round(seconds / 60)} min`;
  return `about ${(seconds / 3600).toFixed(1)} h`;
}

interface Estimate {
  /** How long it will take, in words; undefined where it is not known of this very file. */
  words: string | undefined;
  busy: boolean;
  begin(job: RenderJob): void;
}

/**
 * How long a render will take, found out when one asks.
 *
 * @param of what the file will be, in words: what was found of another is not shown for it
 */
export function useEstimate(of: string): Estimate {
  const [found, setFound] = useState<{ of: string; words: string }>();
  const [busy, setBusy] = useState(false);
  const latest = useRef(of);
  latest.current = of;
  const begin = (job: RenderJob): void => {
    const asked = of;
    setBusy(true);
    estimate(job)
      .then(
        (seconds) =>
          seconds === undefined ? 'Sound alone takes a moment.' : `It takes ${aboutSeconds(seconds)} on this device.`,
        (error: Error) => `The time can’t be estimated: ${error.message}`,
      )
      .then((words) => {
        setBusy(false);
        if (latest.current === asked) setFound({ of: asked, words });
      })
      .catch(() => setBusy(false));
  };
  const words = busy ? 'Making a few pictures to see how long it takes…' : undefined;
  return { words: words ?? (found?.of === of ? found.words : undefined), busy, begin };
}
