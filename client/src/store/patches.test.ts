import jsonPatch, { type Operation } from 'fast-json-patch';
import { enablePatches, produceWithPatches } from 'immer';
import { toJsonPatch } from './patches';

enablePatches();

it('says in JSON Patch what immer did, as an independent implementation applies it (fast-json-patch)', () => {
  const before = { name: 'a', list: [1, 2, 3, 4], 'odd/name~': { deep: true } };
  const [after, patches] = produceWithPatches(before, (draft) => {
    draft.name = 'b';
    draft.list.splice(1, 2);
    draft.list.push(9);
    draft['odd/name~'].deep = false;
  });
  const operations = toJsonPatch(patches).flatMap((operation) =>
    // Immer shortens a list by setting its length; RFC 6902 has no such thing, so none may come out.
    operation.path.endsWith('/length') ? [] : [operation],
  );
  expect(operations).toHaveLength(patches.length);
  expect(jsonPatch.applyPatch(before, operations as Operation[], true, false).newDocument).toEqual(after);
});
