import { derivedName, type DerivedKey, type DerivedPiece, type StoredDerived } from '@hastig/contract';
import { createSlice, type PayloadAction } from '@reduxjs/toolkit';

/** How far something is that is being made here, in units of its kind: frames, samples. */
interface Making {
  done: number;
  total: number;
}

/**
 * What is derived from files, each under its name (`derivedId`). What is there stands apart from what changes all the time.
 */
interface DerivedState {
  pieces: Record<string, DerivedPiece[]>;
  making: Record<string, Making>;
  faults: Record<string, string>;
}

/** What something derived from a file is found by here. */
export function derivedId(sha256: string, key: DerivedKey): string {
  return `${sha256}/${derivedName(key)}`;
}

const slice = createSlice({
  name: 'derived',
  initialState: { pieces: {}, making: {}, faults: {} } as DerivedState,
  reducers: {
    /** What the server has; of what is being made, more is known here. */
    derivedFound: ({ pieces, making }, { payload }: PayloadAction<StoredDerived[]>) => {
      for (const one of payload) {
        const id = derivedId(one.sha256, one);
        if (!making[id]) pieces[id] = one.pieces;
      }
    },
    deriveProgressed: (state, { payload: { id, ...making } }: PayloadAction<Making & { id: string }>) => {
      state.making[id] = making;
      delete state.faults[id];
    },
    pieceSent: ({ pieces }, { payload: { id, piece } }: PayloadAction<{ id: string; piece: DerivedPiece }>) => {
      const others = (pieces[id] ?? []).filter((one) => one.piece !== piece.piece);
      pieces[id] = [...others, piece];
    },
    deriveEnded: (state, { payload: { id, fault } }: PayloadAction<{ id: string; fault: string | null }>) => {
      delete state.making[id];
      if (fault !== null) state.faults[id] = fault;
    },
    derivedGone: (state, { payload }: PayloadAction<string>) => {
      delete state.pieces[payload];
      delete state.faults[payload];
    },
  },
});

export const derivedReducer = slice.reducer;
export const { derivedFound, deriveProgressed, pieceSent, deriveEnded, derivedGone } = slice.actions;
