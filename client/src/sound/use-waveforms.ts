import { PEAKS_PIECE_SAMPLES, type DerivedKey, type Source } from '@hastig/contract';
import { Peaks, samplesPerPosition, soundOf, type Peak } from '@hastig/core';
import { useEffect, useMemo, useState } from 'react';
import { derivedAddress } from '../store/api';
import { wantDerived } from '../store/derive';
import { derivedId } from '../store/derived-slice';
import { useAppDispatch, useAppSelector } from '../store/hooks';
import { useDerived } from '../store/use-derived';

/** The sound of sources, as far as their waveforms are here. */
export interface Waveforms {
  /** The lowest and the highest sample between two positions of a source, in either order; undefined where not known. */
  between(source: Source, from: number, to: number): Peak | undefined;
  /** Changes when more of them is here. */
  here: number;
}

interface Entry {
  peaks: Peaks;
  asked: Set<number>;
}

// Some tens of kilobytes a minute; kept for as long as the page is.
const known = new Map<string, Entry>();

const keyOf = ({ soundTrack = 0 }: Source): DerivedKey => ({ kind: 'peaks', params: String(soundTrack) });
const idOf = (source: Source): string => derivedId(source.sha256, keyOf(source));

function entryOf(id: string): Entry {
  const entry = known.get(id) ?? { peaks: new Peaks(PEAKS_PIECE_SAMPLES), asked: new Set<number>() };
  known.set(id, entry);
  return entry;
}

async function load(source: Source, piece: number): Promise<boolean> {
  const entry = entryOf(idOf(source));
  if (entry.asked.has(piece)) return false;
  entry.asked.add(piece);
  try {
    const answer = await fetch(`${derivedAddress(source.sha256, keyOf(source))}/${piece}`);
    if (!answer.ok) throw new Error(String(answer.status));
    entry.peaks.put(piece, new Uint8Array(await answer.arrayBuffer()));
    return true;
  } catch {
    // Asked for again when it is next looked at.
    entry.asked.delete(piece);
    return false;
  }
}

/** The waveforms of some sources; made in the background where there are none yet. Sources without sound have none. */
export function useWaveforms(sources: readonly Source[]): Waveforms {
  const dispatch = useAppDispatch();
  const pieces = useAppSelector((state) => state.derived.pieces);
  const [here, setHere] = useState(0);
  useEffect(() => {
    let shown = true;
    const audible = sources.filter((source) => soundOf(source));
    for (const source of audible) dispatch(wantDerived(source, keyOf(source)));
    void (async () => {
      for (const source of audible) {
        for (const { piece } of pieces[idOf(source)] ?? []) {
          if (!shown) return;
          if (await load(source, piece)) setHere((now) => now + 1);
        }
      }
    })();
    return () => {
      shown = false;
    };
  }, [dispatch, sources, pieces]);
  return useMemo(
    () => ({
      here,
      between: (source, from, to) => {
        const entry = known.get(idOf(source));
        const each = samplesPerPosition(source);
        return entry?.peaks.between(Math.min(from, to) * each, Math.max(from, to) * each);
      },
    }),
    [here],
  );
}

/** How far a source's waveform is, or why there is none. */
interface WaveformState {
  /** Share of it that is made, while it is being made. */
  making: number | null;
  fault: string | null;
}

export function useWaveformState(source: Source): WaveformState {
  const { fault, progress } = useDerived(source, keyOf(source));
  return { fault, making: progress };
}
