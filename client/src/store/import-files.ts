import { addSource } from '@hastig/core';
import { nanoid } from '@reduxjs/toolkit';
import { bringFile } from './bring-file';
import { rearrange } from './edit';
import type { AppThunk } from './store';

/** Brings files into the open project, each as a source, and where the project lays what comes in with a clip of its own. */
export function importFiles(files: readonly File[]): AppThunk<Promise<void>> {
  return async (dispatch) => {
    // One after the other: two uploads at once are not faster, and the first is usable sooner.
    for (const file of files) {
      await dispatch(
        bringFile(file, ({ sha256, facts }) => {
          const source = { id: `source-${nanoid(10)}`, name: file.name, sha256, facts };
          const clipId = `clip-${nanoid(10)}`;
          dispatch(rearrange(`bring in ${file.name}`, (project) => addSource(project, source, clipId)));
        }),
      );
    }
  };
}
