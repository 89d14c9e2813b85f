import { derivedPieces, type DerivedKey, type Source } from '@hastig/contract';
import { rateToNumber, type FoundMoment } from '@hastig/core';
import { searchMoments } from '@hastig/engine';
import { useEffect, useState } from 'react';
import { derivedAddress } from '../store/api';
import { cancelDerive, makeDerived, wantDerived } from '../store/derive';
import { derivedId } from '../store/derived-slice';
import { useAppDispatch, useAppSelector } from '../store/hooks';
import { useEnvelopePieces } from './use-envelope-pieces';

/** Moments of a clip's source as far as they are known, and how far that is. */
interface MomentsState {
  moments: readonly FoundMoment[] | undefined;
  /** Share of its picture that has been looked at, while it is; null before and after. */
  watching: number | null;
  fault: string | null;
  cancel(): void;
  again(): void;
}

const KEY: DerivedKey = { kind: 'motion', params: '' };

// Some thousand numbers each; kept for as long as the page is.
const known = new Map<string, readonly FoundMoment[]>();

/** Looks at a source's picture and listens to its sound for moments, once, in workers. */
export function useMoments(source: Source): MomentsState {
  const dispatch = useAppDispatch();
  const id = derivedId(source.sha256, KEY);
  const there = useAppSelector((state) => state.derived.pieces[id]?.length ?? 0);
  const making = useAppSelector((state) => state.derived.making[id]);
  const failed = useAppSelector((state) => state.derived.faults[id]) ?? null;
  const sound = useEnvelopePieces(source);
  const [found, setFound] = useState<{ id: string; fault?: string }>();
  const all = derivedPieces(KEY, source.facts);
  const { video } = source.facts;
  const whole = all > 0 && there >= all;
  // What its sound says is waited for, unless it cannot be had.
  const ready = whole && (sound.id === '' || sound.question !== undefined || sound.fault !== null);
  useEffect(() => {
    dispatch(wantDerived(source, KEY));
  }, [dispatch, source]);
  useEffect(() => {
    if (!ready || !video || known.has(id)) return;
    const motion = Array.from({ length: all }, (_, piece) => `${derivedAddress(source.sha256, KEY)}/${piece}`);
    searchMoments({ motion, rate: rateToNumber(video.rate), sound: sound.question ?? null }).then(
      (moments) => {
        known.set(id, moments);
        setFound({ id });
      },
      (error: Error) => setFound({ id, fault: error.message }),
    );
  }, [ready, id, all, video, source.sha256, sound.question]);
  return {
    moments: known.get(id),
    watching: making && !whole ? making.done / Math.max(1, making.total) : null,
    fault: failed ?? (found?.id === id ? (found.fault ?? null) : null),
    cancel: () => cancelDerive(source.sha256, KEY),
    again: () => void dispatch(makeDerived(source, KEY)),
  };
}
