import type { CopyPiece, StoredCopy } from '@hastig/contract';
import { createSlice, type PayloadAction } from '@reduxjs/toolkit';

/** How far a scrubbing copy is that is being made here, in frames. */
interface CopyMaking {
  done: number;
  total: number;
}

/** Scrubbing copies, each by the SHA-256 of what it is a copy of. What is there stands apart from what changes all the time. */
interface CopiesState {
  pieces: Record<string, CopyPiece[]>;
  making: Record<string, CopyMaking>;
  faults: Record<string, string>;
}

const slice = createSlice({
  name: 'copies',
  initialState: { pieces: {}, making: {}, faults: {} } as CopiesState,
  reducers: {
    /** What the server has; of what is being made, more is known here. */
    copiesFound: ({ pieces, making }, { payload }: PayloadAction<StoredCopy[]>) => {
      for (const copy of payload) if (!making[copy.sha256]) pieces[copy.sha256] = copy.pieces;
    },
    copyProgressed: (state, { payload: { sha256, ...making } }: PayloadAction<CopyMaking & { sha256: string }>) => {
      state.making[sha256] = making;
      delete state.faults[sha256];
    },
    copyPieceSent: (
      { pieces },
      { payload: { sha256, piece } }: PayloadAction<{ sha256: string; piece: CopyPiece }>,
    ) => {
      const others = (pieces[sha256] ?? []).filter((one) => one.piece !== piece.piece);
      pieces[sha256] = [...others, piece];
    },
    copyEnded: (state, { payload: { sha256, fault } }: PayloadAction<{ sha256: string; fault: string | null }>) => {
      delete state.making[sha256];
      if (fault !== null) state.faults[sha256] = fault;
    },
    copyGone: (state, { payload }: PayloadAction<string>) => {
      delete state.pieces[payload];
      delete state.faults[payload];
    },
  },
});

export const copiesReducer = slice.reducer;
export const { copiesFound, copyProgressed, copyPieceSent, copyEnded, copyGone } = slice.actions;
