import { estimate, type RenderJob } from '@hastig/engine';
import { useRef, useState } from 'react';
import { formatBytes } from '../../ui/format';

/** Seconds in words that say no more than is known: `less than 5 s`, `about 40 s`, `about 12 min`. */
export function aboutSeconds(seconds: number): string {
  if (seconds < 5) return 'less than 5 s';
  if (seconds < 90) return `about ${Math.round(seconds / 5) * 5} s`;
  if (seconds < 5400) return `about ${Math.round(seconds / 60)} min`;
  return `about ${(seconds / 3600).toFixed(1)} h`;
}

interface Estimate {
  /** How long it will take, and how large it will be, in words; undefined where it is not known of these very files. */
  words: string | undefined;
  busy: boolean;
  begin(jobs: readonly RenderJob[]): void;
}

/** All files together: they are made one after the other. */
async function all(jobs: readonly RenderJob[]): Promise<{ seconds: number | undefined; bytes: number }> {
  let [seconds, bytes]: [number | undefined, number] = [undefined, 0];
  for (const job of jobs) {
    const found = await estimate(job);
    if (found.seconds !== undefined) seconds = (seconds ?? 0) + found.seconds;
    bytes += found.bytes;
  }
  return { seconds, bytes };
}

/**
 * How long a render will take and how large it will be, found out when one asks.
 *
 * @param of what the files will be, in words: what was found of others is not shown for them
 */
export function useEstimate(of: string): Estimate {
  const [found, setFound] = useState<{ of: string; words: string }>();
  const [busy, setBusy] = useState(false);
  const latest = useRef(of);
  latest.current = of;
  const begin = (jobs: readonly RenderJob[]): void => {
    const asked = of;
    setBusy(true);
    all(jobs)
      .then(
        ({ seconds, bytes }) =>
          seconds === undefined
            ? `Sound alone takes a moment; about ${formatBytes(bytes)}.`
            : `It takes ${aboutSeconds(seconds)} on this device, about ${formatBytes(bytes)}.`,
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
