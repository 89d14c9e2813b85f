import { fileDifferences, findSource, replaceFile } from '@hastig/core';
import { uploadFile } from './upload-file';
import { rearrange } from './edit';
import { messageSet } from './session-slice';
import type { AppThunk } from './store';

/** Puts another file behind a source, its clips' timing kept, and tells what differs. */
export function replaceSourceFile(sourceId: string, file: File): AppThunk<Promise<void>> {
  return (dispatch, getState) =>
    dispatch(
      uploadFile(
        file,
        (media) => {
          const { document } = getState().project;
          const before = document ? findSource(document, sourceId) : undefined;
          if (!before) return;
          const differences = fileDifferences(before.facts, media.facts);
          dispatch(rearrange(`replace ${before.name}`, (project) => replaceFile(project, sourceId, media)));
          const text =
            differences.length > 0
              ? `Differences: ${differences.join('; ')}.`
              : 'Rate, duration, size and sound are the same.';
          dispatch(messageSet(`${before.name} now uses ${file.name}. Timing is unchanged. ${text}`));
        },
        sourceId,
      ),
    );
}
