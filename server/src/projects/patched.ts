import type { PatchOperation } from '@hastig/contract';
import jsonPatch, { type Operation } from 'fast-json-patch';
import { invalid } from '../http/problem';

type Tree = Record<string, unknown>;

const isTree = (value: unknown): value is Tree => typeof value === 'object' && value !== null;
const copyOf = (tree: Tree): Tree => (Array.isArray(tree) ? (tree.slice() as unknown as Tree) : { ...tree });
const piecesOf = (pointer: string): string[] =>
  pointer
    .split('/')
    .slice(1)
    .map((piece) => piece.replace(/~1/g, '/').replace(/~0/g, '~'));

/**
 * Applies a JSON Patch (RFC 6902) to a document that stays as it is: what an operation touches is copied first, all else is
 * shared with the document before.
 *
 * @throws HttpProblem 422 where it does not apply
 */
export function patched(document: unknown, patch: readonly PatchOperation[]): unknown {
  const own = new Set<unknown>();
  const owned = (tree: Tree): Tree => {
    if (own.has(tree)) return tree;
    const copy = copyOf(tree);
    own.add(copy);
    return copy;
  };
  let root = isTree(document) ? owned(document) : document;
  patch.forEach((operation, index) => {
    let at = root;
    for (const piece of piecesOf(operation.path).slice(0, -1)) {
      const inner = isTree(at) && Object.hasOwn(at, piece) ? at[piece] : undefined;
      if (!isTree(inner)) break;
      (at as Tree)[piece] = owned(inner);
      at = (at as Tree)[piece];
    }
    try {
      root = jsonPatch.applyOperation(root, operation as Operation, true, true, true, index).newDocument;
    } catch (error) {
      const reason = (error as Error).message.split('\n')[0]!;
      throw invalid([{ pointer: `/patch/${index}`, reason: `does not apply: ${reason}` }]);
    }
    if (operation.path === '' && isTree(root)) root = owned(root);
  });
  return root;
}
