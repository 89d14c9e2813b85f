import type { DerivedKey, Source } from '@hastig/contract';
import { rateToNumber, type FoundMoment } from '@hastig/core';
import { searchMoments } from '@hastig/engine';
import { useEffect, useState } from 'react';
import { useDerived } from '../store/use-derived';
import { useOnsets } from './use-onsets';

/** Moments of a clip's source as far as they are known, and how far that is. */
interface MomentsState {
  found: readonly FoundMoment[] | undefined;
  /** Share of its picture that has been looked at, while it is; null before and after. */
  progress: number | null;
  fault: string | null;
  cancel(): void;
  again(): void;
}

const MOTION: DerivedKey = { kind: 'motion', params: '' };

// Some thousand numbers each; kept for as long as the page is.
const known = new Map<string, readonly FoundMoment[]>();

/** Looks at a source's picture and listens to its sound for moments, once, in workers. */
export function useMoments(source: Source): MomentsState {
  const { id, addresses, progress, fault: failed, cancel, again } = useDerived(source, MOTION);
  const sound = useOnsets(source);
  const [outcome, setOutcome] = useState<{ id: string; fault?: string }>();
  const { video } = source.facts;
  // What its sound says is waited for, unless it cannot be had.
  const heard = sound.id === '' || sound.question !== undefined || sound.fault !== null;
  useEffect(() => {
    if (!addresses || !heard || !video || known.has(id)) return;
    searchMoments({ motion: addresses, rate: rateToNumber(video.rate), sound: sound.question ?? null }).then(
      (moments) => {
        known.set(id, moments);
        setOutcome({ id });
      },
      (error: Error) => setOutcome({ id, fault: error.message }),
    );
  }, [addresses, heard, id, video, sound.question]);
  const fault = failed ?? (outcome?.id === id ? (outcome.fault ?? null) : null);
  return { found: known.get(id), progress, fault, cancel, again };
}
