import { derivedPieces, type DerivedKey, type Source } from '@hastig/contract';
import { soundOf } from '@hastig/core';
import { useEffect } from 'react';
import { derivedAddress } from '../store/api';
import { wantDerived } from '../store/derive';
import { derivedId } from '../store/derived-slice';
import { useAppDispatch, useAppSelector } from '../store/hooks';

/** How far the onset envelope of a source is, and where it is once it is whole. */
interface EnvelopePieces {
  /** Names it; empty for a source without sound. */
  id: string;
  /** Where its pieces are and how it is read; undefined until all of them are there. */
  question: { addresses: readonly string[]; sampleRate: number } | undefined;
  /** Share of it that is made, while it is being made. */
  listening: number | null;
  fault: string | null;
}

/** What the onset envelope of the sound that is heard of a source is found by. */
export const onsetsKey = ({ soundTrack = 0 }: Source): DerivedKey => ({ kind: 'onsets', params: String(soundTrack) });

const questions = new Map<string, NonNullable<EnvelopePieces['question']>>();

/** Sees to it that a source's onset envelope is made, and says where it is. */
export function useEnvelopePieces(source: Source | undefined): EnvelopePieces {
  const dispatch = useAppDispatch();
  const sound = source && soundOf(source);
  const id = source && sound ? derivedId(source.sha256, onsetsKey(source)) : '';
  const there = useAppSelector((state) => state.derived.pieces[id]?.length ?? 0);
  const making = useAppSelector((state) => state.derived.making[id]);
  const fault = useAppSelector((state) => state.derived.faults[id]) ?? null;
  useEffect(() => {
    if (source && id !== '') dispatch(wantDerived(source, onsetsKey(source)));
  }, [dispatch, source, id]);
  const all = source ? derivedPieces(onsetsKey(source), source.facts) : 0;
  const whole = id !== '' && all > 0 && there >= all;
  if (whole && source && sound && !questions.has(id)) {
    const address = derivedAddress(source.sha256, onsetsKey(source));
    const addresses = Array.from({ length: all }, (_, piece) => `${address}/${piece}`);
    questions.set(id, { addresses, sampleRate: sound.sampleRate });
  }
  return {
    id,
    question: whole ? questions.get(id) : undefined,
    listening: making && !whole ? making.done / Math.max(1, making.total) : null,
    fault,
  };
}
