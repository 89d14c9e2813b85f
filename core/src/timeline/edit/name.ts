import { isText, LONGEST_NAME } from '@hastig/contract';
import { EditRefused } from '../../retime';

/**
 * A name as it is kept: without space around it.
 *
 * @throws EditRefused where nothing is left, or too much
 */
export function checkedName(name: string): string {
  const kept = name.trim();
  if (kept === '' || [...kept].length > LONGEST_NAME)
    throw new EditRefused('name', `A name needs 1 to ${LONGEST_NAME} characters.`);
  if (!isText(kept)) throw new EditRefused('name', 'This name contains a character that can’t be stored.');
  return kept;
}
