import type { Source } from '@hastig/contract';
import { searchBeats, type BeatAnalysis, type RunningSearch } from '@hastig/engine';
import { useCallback, useEffect, useState } from 'react';
import { cancelDerive, makeDerived } from '../store/derive';
import { useAppDispatch } from '../store/hooks';
import { onsetsKey, useEnvelopePieces } from './use-envelope-pieces';

/** What is known of a source's beats and hits, and how far it is. */
export interface AnalysisState {
  analysis: BeatAnalysis | undefined;
  /** Share of its sound that has been listened to, while it is; null before and after. */
  listening: number | null;
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
  const dispatch = useAppDispatch();
  const { id, question, listening, fault: failed } = useEnvelopePieces(source);
  const [found, setFound] = useState<{ id: string; analysis?: BeatAnalysis; fault?: string }>();

  useEffect(() => {
    if (!question || known.has(id)) return undefined;
    let search: RunningSearch | undefined = searchBeats(question);
    search.result.then(
      (analysis) => {
        known.set(id, analysis);
        search = undefined;
        setFound({ id, analysis });
      },
      (error: Error) => setFound({ id, fault: error.message }),
    );
    return () => search?.cancel();
  }, [id, question]);

  const analysis = known.get(id) ?? (found?.id === id ? found.analysis : undefined);
  const fault = failed ?? (found?.id === id ? (found.fault ?? null) : null);
  const cancel = useCallback(() => {
    if (source) cancelDerive(source.sha256, onsetsKey(source));
  }, [source]);
  const again = useCallback(() => {
    if (source) void dispatch(makeDerived(source, onsetsKey(source)));
  }, [dispatch, source]);
  return { analysis, listening, searching: question !== undefined && !analysis && !fault, fault, cancel, again };
}

/** An analysis as a sheet that waits for it takes it. */
export const foundIn = ({ analysis, listening, fault, cancel, again }: AnalysisState) => ({
  found: analysis,
  progress: listening,
  ...{ fault, cancel, again },
});
