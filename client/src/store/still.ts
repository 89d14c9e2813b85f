import { freeze } from 'immer';

/**
 * Marks something as never changed in place. What keeps the store looks no further than that: walking through a large document
 * with every edit and every step of a drag would take longer than these do. Where Hastig is made and tested it is frozen all
 * through, so that whoever changes it fails at once.
 */
export function still<T>(value: T): T {
  return freeze(value, process.env.NODE_ENV !== 'production');
}
