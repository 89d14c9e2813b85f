/** Arrays and objects in each other at the most; a project has a dozen. */
const DEEPEST = 64;

const [QUOTE, BACKSLASH, OPEN_ARRAY, CLOSE_ARRAY, OPEN_OBJECT, CLOSE_OBJECT] = Array.from('"\\[]{}', (sign) =>
  sign.charCodeAt(0),
);

/**
 * Whether a JSON text has arrays and objects in each other deeper than anything of ours, told before it is read: what walks through
 * values by calling itself would come to the end of its stack.
 */
export function isTooDeep(json: string): boolean {
  let depth = 0;
  for (let at = 0; at < json.length; at++) {
    const sign = json.charCodeAt(at);
    if (sign === QUOTE) {
      for (at++; at < json.length && json.charCodeAt(at) !== QUOTE; at++) if (json.charCodeAt(at) === BACKSLASH) at++;
    } else if (sign === OPEN_ARRAY || sign === OPEN_OBJECT) {
      if (++depth > DEEPEST) return true;
    } else if (sign === CLOSE_ARRAY || sign === CLOSE_OBJECT) depth--;
  }
  return false;
}
