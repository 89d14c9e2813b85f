import type { PatchOperation } from '@hastig/contract';
import type { Patch } from 'immer';

/** Immer's patches as a JSON Patch (RFC 6902): paths become JSON Pointers (RFC 6901). */
export function toJsonPatch(patches: readonly Patch[]): PatchOperation[] {
  return patches.map(({ op, path, value }) => {
    const pointer = path.map((part) => `/${String(part).replace(/~/g, '~0').replace(/\//g, '~1')}`).join('');
    return op === 'remove' ? { op, path: pointer } : { op, path: pointer, value };
  });
}
