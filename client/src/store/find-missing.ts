import type { MissingMedia } from '@hastig/contract';
import { messageSet, noticeSet } from './session-slice';
import type { AppThunk } from './store';
import { uploadFile } from './upload-file';

/** Brings back a file that the server has lost: only the very same one takes its place. */
export function findMissing({ sha256, name }: MissingMedia, file: File): AppThunk<Promise<void>> {
  return (dispatch) =>
    dispatch(
      uploadFile(file, (media) => {
        if (media.sha256 === sha256) dispatch(messageSet(`${name} is back. Reload the page if its picture isn’t.`));
        else
          dispatch(
            noticeSet(
              `${file.name} isn’t the file that ${name} was made of. Choose another, or open ${name} and use “Replace file”.`,
            ),
          );
      }),
    );
}
