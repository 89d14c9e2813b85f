import {
  deriveEnded,
  deriveProgressed,
  derivedFound,
  derivedGone,
  derivedId,
  derivedReducer,
  pieceSent,
} from './derived-slice';

const sha256 = 'a'.repeat(64);
const key = { kind: 'proxy', params: '' } as const;
const id = derivedId(sha256, key);
const start = derivedReducer(undefined, { type: 'start' });

it('keeps what is there through progress, so that a stage need not look again', () => {
  const found = derivedReducer(start, derivedFound([{ sha256, ...key, pieces: [{ piece: 0, bytes: 9 }] }]));
  const making = derivedReducer(found, deriveProgressed({ id, done: 610, total: 900 }));
  expect(making.pieces).toBe(found.pieces);
  const sent = derivedReducer(making, pieceSent({ id, piece: { piece: 1, bytes: 5 } }));
  expect(sent.pieces[id]).toEqual([
    { piece: 0, bytes: 9 },
    { piece: 1, bytes: 5 },
  ]);
  // An older answer of the server does not take back what was sent meanwhile.
  expect(derivedReducer(sent, derivedFound([{ sha256, ...key, pieces: [] }])).pieces[id]).toHaveLength(2);
});

it('tells one thing derived from a file from another', () => {
  const peaks = derivedId(sha256, { kind: 'peaks', params: '1' });
  expect(new Set([id, peaks, derivedId(sha256, { kind: 'peaks', params: '0' })]).size).toBe(3);
});

it('tells a fault until it is tried again, and forgets what is taken away', () => {
  const failed = derivedReducer(start, deriveEnded({ id, fault: 'The disk is full.' }));
  expect(failed.faults[id]).toBe('The disk is full.');
  const again = derivedReducer(failed, deriveProgressed({ id, done: 0, total: 100 }));
  expect(again.faults).toEqual({});
  const there = derivedReducer(again, pieceSent({ id, piece: { piece: 0, bytes: 5 } }));
  const cancelled = derivedReducer(there, deriveEnded({ id, fault: null }));
  expect(cancelled).toEqual({ pieces: { [id]: [{ piece: 0, bytes: 5 }] }, making: {}, faults: {} });
  expect(derivedReducer(cancelled, derivedGone(id))).toEqual(start);
});
