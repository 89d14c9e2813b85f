import type { Source } from '@hastig/contract';
import type { BeatAnalysis } from '@hastig/core';
import { searchBeats, type Running } from '@hastig/engine';
import { useCallback, useEffect, useRef, useState } from 'react';
import { useOnsets } from './use-onsets';

/** What is known of a source's beats and hits, and how far it is. */
export interface AnalysisState {
  found: BeatAnalysis | undefined;
  /** Share of its sound that has been listened to, then of the search that is done; null before and after. */
  progress: number | null;
  /** Whether its beats are being searched. */
  searching: boolean;
  fault: string | null;
  cancel(): void;
  again(): void;
}

// Some hundred kilobytes each; kept for as long as the page is.
const known = new Map<string, BeatAnalysis>();

/** Listens to a source's sound and finds its beats and hits, once, in workers; nothing of a source without sound. */
export function useAnalysis(source: Source | undefined): AnalysisState {
  const { id, question, progress, fault: failed, cancel: stopListening, again: listenAgain } = useOnsets(source);
  const [outcome, setOutcome] = useState<{ id: string; fault?: string }>();
  const [searched, setSearched] = useState(0);
  const running = useRef<Running<BeatAnalysis> | null>(null);
  const fault = failed ?? (outcome?.id === id ? (outcome.fault ?? null) : null);

  useEffect(() => {
    if (!question || known.has(id) || fault !== null) return undefined;
    const search = searchBeats(question, setSearched);
    running.current = search;
    search.result.then(
      (analysis) => {
        known.set(id, analysis);
        setSearched(0);
        setOutcome({ id });
      },
      (error: Error) => setOutcome({ id, fault: error.message }),
    );
    return () => search.cancel();
  }, [id, question, fault]);

  const found = known.get(id);
  const searching = question !== undefined && !found && fault === null;
  const cancel = useCallback(() => {
    if (!searching) return stopListening();
    running.current?.cancel();
    setOutcome({ id, fault: 'The search was cancelled.' });
  }, [searching, stopListening, id]);
  const again = useCallback(() => {
    if (question) setOutcome(undefined);
    else listenAgain();
  }, [question, listenAgain]);
  return { found, progress: searching ? searched : progress, searching, fault, cancel, again };
}
