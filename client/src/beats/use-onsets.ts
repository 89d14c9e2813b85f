import type { DerivedKey, Source } from '@hastig/contract';
import { soundOf } from '@hastig/core';
import { useMemo } from 'react';
import { useDerived } from '../store/use-derived';

/** What the onset envelope of the sound that is heard of a source is found by. */
const onsetsKey = ({ soundTrack = 0 }: Source): DerivedKey => ({ kind: 'onsets', params: String(soundTrack) });

const NONE: DerivedKey = { kind: 'onsets', params: '0' };

/** The onset envelope of a source's sound: how far it is, and what the engine is asked with once it is whole. */
export function useOnsets(source: Source | undefined) {
  const { addresses, ...derived } = useDerived(source, source ? onsetsKey(source) : NONE);
  const sampleRate = source && soundOf(source)?.sampleRate;
  const question = useMemo(
    () => (addresses && sampleRate ? { addresses, sampleRate } : undefined),
    [addresses, sampleRate],
  );
  return { ...derived, question };
}
