import { applyPatches, enablePatches, produceWithPatches } from 'immer';
import * as fc from 'fast-check';
import { adopt } from './adopt';

enablePatches();

interface State {
  name: string;
  list: { id: number; inner: { value: number } }[];
  extra?: number;
}

const item = (id: number, value = 0) => ({ id, inner: { value } });
const state: State = { name: 'a', list: [item(0), item(1), item(2)], extra: 1 };

it('tells only what differs', () => {
  const next: State = { name: 'a', list: [state.list[0]!, { ...state.list[1]!, inner: { value: 9 } }, state.list[2]!] };
  const [after, patches] = produceWithPatches(state, (draft) => adopt(draft, next));
  expect(after).toEqual(next);
  expect(patches).toEqual([
    { op: 'replace', path: ['list', 1, 'inner', 'value'], value: 9 },
    { op: 'remove', path: ['extra'] },
  ]);
});

it('adds at the end without telling what was there', () => {
  const [, patches] = produceWithPatches(state, (draft) => adopt(draft, { ...state, list: [...state.list, item(3)] }));
  expect(patches).toEqual([{ op: 'add', path: ['list', 3], value: item(3) }]);
});

it('comes to any state and back', () => {
  const list = fc.array(
    fc.nat(5).map((id) => state.list[id] ?? item(id, id)),
    { maxLength: 6 },
  );
  fc.assert(
    fc.property(list, list, (before, after) => {
      const [from, to] = [before, after].map((one): State => ({ name: 'x', list: one }));
      const [result, patches, inverse] = produceWithPatches(from!, (draft) => adopt(draft, to!));
      expect(result).toEqual(to);
      expect(applyPatches(from!, patches)).toEqual(to);
      expect(applyPatches(to!, inverse)).toEqual(from);
    }),
  );
});
