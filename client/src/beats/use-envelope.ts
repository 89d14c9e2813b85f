import type { Source } from '@hastig/contract';
import type { OnsetEnvelope } from '@hastig/core';
import { fetchEnvelope } from '@hastig/engine';
import { useEffect, useState } from 'react';
import { useOnsets } from './use-onsets';

// The one that was asked for last: a quarter of a megabyte a minute.
let last: { id: string; envelope: OnsetEnvelope } | undefined;

/** The onset envelope of a source's sound with its levels; undefined until it is there. */
export function useEnvelope(source: Source | undefined): OnsetEnvelope | undefined {
  const { id, question } = useOnsets(source);
  const [, setHere] = useState('');
  useEffect(() => {
    if (!question || last?.id === id) return undefined;
    let shown = true;
    fetchEnvelope(question).then(
      (envelope) => {
        last = { id, envelope };
        if (shown) setHere(id);
      },
      // Without it there is nothing to follow; the sheet says so.
      () => undefined,
    );
    return () => {
      shown = false;
    };
  }, [id, question]);
  return last?.id === id ? last.envelope : undefined;
}
