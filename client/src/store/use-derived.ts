import { derivedPieces, type DerivedKey, type Source } from '@hastig/contract';
import { useCallback, useEffect, useMemo } from 'react';
import { derivedAddress } from './api';
import { cancelDerive, makeDerived, wantDerived } from './derive';
import { derivedId } from './derived-slice';
import { useAppDispatch, useAppSelector } from './hooks';

/** How far something derived from a source is, and where it is once it is whole. */
interface Derived {
  /** Names it; empty where there can be none of this source. */
  id: string;
  /** Where its pieces are, in order; undefined until all of them are there. */
  addresses: readonly string[] | undefined;
  /** Share of it that is made, while it is being made. */
  progress: number | null;
  fault: string | null;
  cancel(): void;
  again(): void;
}

/**
 * Sees to it that something is derived from a source, and says where it is.
 *
 * @param source undefined for nothing
 */
export function useDerived(source: Source | undefined, { kind, params }: DerivedKey): Derived {
  const dispatch = useAppDispatch();
  const key = useMemo(() => ({ kind, params }), [kind, params]);
  const all = source ? derivedPieces(key, source.facts) : 0;
  const wanted = all > 0 ? source : undefined;
  const id = wanted ? derivedId(wanted.sha256, key) : '';
  const there = useAppSelector((state) => state.derived.pieces[id]?.length ?? 0);
  const making = useAppSelector((state) => state.derived.making[id]);
  const fault = useAppSelector((state) => state.derived.faults[id]) ?? null;
  useEffect(() => {
    if (wanted) dispatch(wantDerived(wanted, key));
  }, [dispatch, wanted, key]);
  const whole = wanted !== undefined && there >= all;
  const sha256 = wanted?.sha256 ?? '';
  const addresses = useMemo(
    () => (whole ? Array.from({ length: all }, (_, piece) => `${derivedAddress(sha256, key)}/${piece}`) : undefined),
    [whole, all, sha256, key],
  );
  const cancel = useCallback(() => cancelDerive(sha256, key), [sha256, key]);
  const again = useCallback(() => {
    if (wanted) void dispatch(makeDerived(wanted, key));
  }, [dispatch, wanted, key]);
  return {
    ...{ id, addresses, fault, cancel, again },
    progress: making && !whole ? making.done / Math.max(1, making.total) : null,
  };
}
