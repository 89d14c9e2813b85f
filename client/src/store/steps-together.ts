import type { PatchOperation } from '@hastig/contract';

/** Operations and characters of one request at most; less than the server takes. */
const MOST_OPERATIONS = 5000;
const MOST_TEXT = 2 * 2 ** 20;

/** How many of the steps go out together: whole steps, at least one, no more than fit into one request. */
export function stepsTogether(steps: readonly (readonly PatchOperation[])[]): number {
  let [operations, text] = [0, 0];
  for (const [index, step] of steps.entries()) {
    operations += step.length;
    text += JSON.stringify(step).length;
    if (index > 0 && (operations > MOST_OPERATIONS || text > MOST_TEXT)) return index;
  }
  return steps.length;
}
