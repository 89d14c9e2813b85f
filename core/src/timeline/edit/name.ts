import { EditRefused } from '../../retime';

/** Characters of the longest name, as in the project's schema. */
const LONGEST = 200;

/**
 * A name as it is kept: without space around it.
 *
 * @throws EditRefused where nothing is left, or too much
 */
export function checkedName(name: string): string {
  const kept = name.trim();
  if (kept === '' || kept.length > LONGEST) throw new EditRefused('name', `A name has 1 to ${LONGEST} characters.`);
  return kept;
}
