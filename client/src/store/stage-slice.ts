import { createSlice, type PayloadAction } from '@reduxjs/toolkit';
import type { MadePicture, ReadyRange, StageLook } from '@hastig/engine';

interface StageState {
  /** How the picture at rest is looked at. */
  look: StageLook;
  /** What the picture at rest took to be made; null where it is a frame as it is. */
  made: MadePicture | null;
  /** Output frames whose pictures are made already. */
  ready: readonly ReadyRange[];
  /** What plays now is shown as instants, for it is not made yet. */
  draft: boolean;
}

const initialState: StageState = { look: { kind: 'made' }, made: null, ready: [], draft: false };

const slice = createSlice({
  name: 'stage',
  initialState,
  reducers: {
    lookChosen: (state, { payload }: PayloadAction<StageLook>) => {
      state.look = payload;
    },
    pictureMade: (state, { payload }: PayloadAction<MadePicture | null>) => {
      state.made = payload;
    },
    readyTold: (state, { payload }: PayloadAction<readonly ReadyRange[]>) => {
      state.ready = [...payload];
    },
    draftTold: (state, { payload }: PayloadAction<boolean>) => {
      state.draft = payload;
    },
  },
});

export const stageReducer = slice.reducer;
export const { lookChosen, pictureMade, readyTold, draftTold } = slice.actions;
