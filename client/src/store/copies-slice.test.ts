import { facts } from '../../test/project';
import { copiesFound, copiesReducer, copyEnded, copyGone, copyPieceSent, copyProgressed } from './copies-slice';

const sha256 = 'a'.repeat(64);
const start = copiesReducer(undefined, { type: 'start' });

it('keeps what is there through progress, so that a stage need not look again', () => {
  const found = copiesReducer(start, copiesFound([{ sha256, pieces: [{ piece: 0, bytes: 9 }] }]));
  const making = copiesReducer(found, copyProgressed({ sha256, done: 610, total: 900 }));
  expect(making.pieces).toBe(found.pieces);
  const sent = copiesReducer(making, copyPieceSent({ sha256, piece: { piece: 1, bytes: 5 } }));
  expect(sent.pieces[sha256]).toEqual([
    { piece: 0, bytes: 9 },
    { piece: 1, bytes: 5 },
  ]);
  // An older answer of the server does not take back what was sent meanwhile.
  expect(copiesReducer(sent, copiesFound([{ sha256, pieces: [] }])).pieces[sha256]).toHaveLength(2);
});

it('tells a fault until it is tried again, and forgets a copy that is taken away', () => {
  const failed = copiesReducer(start, copyEnded({ sha256, fault: 'The disk is full.' }));
  expect(failed.faults[sha256]).toBe('The disk is full.');
  const again = copiesReducer(failed, copyProgressed({ sha256, done: 0, total: facts.video.frames }));
  expect(again.faults).toEqual({});
  const there = copiesReducer(again, copyPieceSent({ sha256, piece: { piece: 0, bytes: 5 } }));
  const cancelled = copiesReducer(there, copyEnded({ sha256, fault: null }));
  expect(cancelled).toEqual({ pieces: { [sha256]: [{ piece: 0, bytes: 5 }] }, making: {}, faults: {} });
  expect(copiesReducer(cancelled, copyGone(sha256))).toEqual(start);
});
