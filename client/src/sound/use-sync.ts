import type { Source } from '@hastig/contract';
import type { FoundOffset } from '@hastig/core';
import { searchSync } from '@hastig/engine';
import { useEffect, useState } from 'react';
import { useOnsets } from '../beats/use-onsets';
import { locationOf } from '../store/selectors';

/** How far the search for a recording's place is, and what it found. */
interface SyncState {
  found: FoundOffset | undefined;
  /** Share of both that has been listened to, while they are; null before and after. */
  progress: number | null;
  fault: string | null;
  cancel(): void;
  again(): void;
}

/**
 * Finds how a second recording lies against what is heard of a first by their sound, once both are given.
 *
 * @param ours undefined while nothing is searched
 * @param heard seconds of ours from its first frame; the same object for as long as the same is asked
 */
export function useSync(
  ours: Source | undefined,
  heard: { from: number; to: number },
  theirs: Source | undefined,
): SyncState {
  const [a, b] = [useOnsets(ours), useOnsets(ours ? theirs : undefined)];
  const [outcome, setOutcome] = useState<{ key: string; found?: FoundOffset; fault?: string }>();
  const [tries, setTries] = useState(0);
  const key = `${a.id} ${b.id}`;
  useEffect(() => {
    if (!ours || !theirs || !a.question || !b.question) return undefined;
    const search = searchSync(
      { location: locationOf(ours), onsets: a.question, heard },
      { location: locationOf(theirs), onsets: b.question },
    );
    search.result.then(
      (found) => setOutcome({ key, found }),
      (error: Error) => setOutcome({ key, fault: error.message }),
    );
    return search.cancel;
  }, [ours, heard, theirs, a.question, b.question, key, tries]);
  const here = outcome?.key === key ? outcome : undefined;
  const listening = [a, b].filter(({ question }) => !question);
  const fault = a.fault ?? b.fault ?? here?.fault ?? null;
  return {
    found: ours && here?.found,
    fault,
    cancel: () => [a, b].forEach((one) => one.cancel()),
    again: () => {
      setOutcome(undefined);
      setTries(tries + 1);
      [a, b].forEach((one) => one.fault && one.again());
    },
    progress:
      ours && !here && fault === null
        ? 1 - listening.reduce((sum, { progress }) => sum + (1 - (progress ?? 0)), 0) / 2
        : null,
  };
}
