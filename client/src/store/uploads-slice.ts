import { createSlice, type PayloadAction } from '@reduxjs/toolkit';

/** A file on its way into a project. */
export interface Upload {
  id: string;
  projectId: string;
  /** The source it shall stand behind, where it is no new one. */
  replaces?: string;
  name: string;
  /** `checking` reads it here, `sending` uploads it, `storing` waits for the server. */
  state: 'checking' | 'sending' | 'interrupted' | 'storing' | 'converting' | 'failed';
  /** Whether the server may make of it what browsers decode. */
  convertible?: boolean;
  /** The job that converts it. */
  jobId?: string;
  sent: number;
  bytes: number;
  fault: string | null;
}

const slice = createSlice({
  name: 'uploads',
  initialState: [] as Upload[],
  reducers: {
    uploadAdded: (state, { payload }: PayloadAction<Upload>) => {
      state.push(payload);
    },
    uploadChanged: (state, { payload }: PayloadAction<Partial<Upload> & { id: string }>) => {
      const upload = state.find((one) => one.id === payload.id);
      if (upload) Object.assign(upload, payload);
    },
    uploadRemoved: (state, { payload }: PayloadAction<string>) => state.filter((one) => one.id !== payload),
  },
});

export const uploadsReducer = slice.reducer;
export const { uploadAdded, uploadChanged, uploadRemoved } = slice.actions;
