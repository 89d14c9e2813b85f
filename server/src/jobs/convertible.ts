import { MOST_CONVERTED_HOURS, problemTypes } from '@hastig/contract';
import { discover } from '../convert/convert';
import { ConversionFailed } from '../convert/failed';
import { foundWords } from '../convert/found';
import { HttpProblem } from '../http/problem';

/**
 * What a file is coded as, in words, if it can be converted.
 *
 * @throws HttpProblem 422 for what can't be decoded or is too long; 501 where what converts is not installed
 */
export async function convertible(path: string): Promise<string> {
  const found = await discover(path).catch((error: unknown) => {
    if (!(error instanceof ConversionFailed)) throw error;
    const missing = error.message.startsWith('GStreamer');
    throw new HttpProblem(missing ? 501 : 422, 'The file can’t be converted.', {
      type: problemTypes.refusedMedia,
      detail: error.message,
    });
  });
  const hours = found.seconds / 3600;
  if (hours > MOST_CONVERTED_HOURS)
    throw new HttpProblem(422, 'The file is too long to convert.', {
      type: problemTypes.refusedMedia,
      detail: `It lasts ${hours.toFixed(1)} hours; at most ${MOST_CONVERTED_HOURS} are converted. Cut it first.`,
    });
  return foundWords(found);
}
