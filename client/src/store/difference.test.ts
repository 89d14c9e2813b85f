import jsonPatch, { type Operation } from 'fast-json-patch';
import * as fc from 'fast-check';
import { applied, difference } from './difference';

interface State {
  name: string;
  list: { id: number; inner: { value: number } }[];
  row: ({ clip: string } | { gap: number })[];
  numbers: number[];
  extra?: number;
}

const item = (id: number, value = 0) => ({ id, inner: { value } });
const state: State = {
  name: 'a',
  list: [item(0), item(1), item(2)],
  row: [{ clip: 'a' }, { gap: 3 }, { clip: 'b' }, { gap: 3 }],
  numbers: [1, 2, 3],
  extra: 1,
};

it('tells only what differs', () => {
  const { extra: _, ...rest } = state;
  const changed = { ...state.list[1]!, inner: { value: 9 } };
  expect(difference(state, { ...rest, list: [state.list[0]!, changed, state.list[2]!] })).toEqual([
    { op: 'remove', path: '/extra' },
    { op: 'replace', path: '/list/1/inner/value', value: 9 },
  ]);
});

it('tells one thing put into thousands, or taken out, as one operation', () => {
  const many = Array.from({ length: 20_000 }, (_, id) => item(id));
  const put = { ...state, list: [item(-1), ...many] };
  expect(difference({ ...state, list: many }, put)).toEqual([{ op: 'add', path: '/list/0', value: item(-1) }]);
  expect(difference(put, { ...state, list: many })).toEqual([{ op: 'remove', path: '/list/0' }]);
});

it('tells one thing that moved among thousands as two', () => {
  const many = Array.from({ length: 5000 }, (_, id) => item(id));
  const moved = [...many.slice(1), many[0]!];
  expect(difference({ ...state, list: many }, { ...state, list: moved })).toEqual([
    { op: 'remove', path: '/list/0' },
    { op: 'add', path: '/list/4999', value: many[0] },
  ]);
});

it('tells what changes everywhere as a whole, so that no change is too long to be sent', () => {
  const many = Array.from({ length: 5000 }, (_, id) => item(id));
  const next = { ...state, name: 'b', list: many.map(({ id }) => item(id, 1)) };
  const patch = difference({ ...state, list: many }, next);
  expect(patch.map(({ op, path }) => `${op} ${path}`)).toEqual(['replace /name', 'replace /list']);
  expect(applied({ ...state, list: many }, patch)).toEqual(next);
});

it('changes nothing in place and shares what it does not touch', () => {
  const before = structuredClone(state);
  const next = applied(state, [{ op: 'replace', path: '/list/1/inner/value', value: 5 }]);
  expect(state).toEqual(before);
  expect([next.list[0] === state.list[0], next.row === state.row, next.list[1] === state.list[1]]).toEqual([
    true,
    true,
    false,
  ]);
});

it('refuses a patch that does not fit', () => {
  expect(() => applied(state, [{ op: 'replace', path: '/nothing/at/all', value: 1 }])).toThrow(RangeError);
});

const anyState = fc.record({
  name: fc.constantFrom('a', 'b/c~d'),
  list: fc.uniqueArray(fc.nat(7)).map((ids) => ids.map((id) => state.list[id] ?? item(id, id % 2))),
  row: fc.array(
    fc.oneof(
      fc.constantFrom('a', 'b', 'c').map((clip) => ({ clip })),
      fc.nat(2).map((gap) => ({ gap })),
    ),
  ),
  numbers: fc.array(fc.nat(3)),
});

it('comes to any state and back, as an independent implementation of RFC 6902 does (fast-json-patch)', () => {
  fc.assert(
    fc.property(anyState, anyState, (from, to) => {
      const [there, back] = [difference(from, to), difference(to, from)];
      expect(applied(from, there)).toEqual(to);
      expect(applied(applied(from, there), back)).toEqual(from);
      expect(jsonPatch.applyPatch(from, there as Operation[], true, false).newDocument).toEqual(to);
    }),
  );
});
