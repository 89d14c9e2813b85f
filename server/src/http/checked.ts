import type { Checked } from '@hastig/contract';
import { invalid } from './problem';

/** What an id of the database looks like (RFC 9562). */
export const uuid = /^[0-9a-f]{8}(-[0-9a-f]{4}){3}-[0-9a-f]{12}$/;

/** What was checked, if it is as it should be. Throws HttpProblem 422 with every fault. */
export function checked<T>(result: Checked<T>): T {
  if (!result.ok) throw invalid(result.errors);
  return result.value;
}
