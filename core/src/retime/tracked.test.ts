import type { RetimeMap } from '@hastig/contract';
import fc from 'fast-check';
import {
  compile,
  constantSpan,
  eases,
  fit,
  freeze,
  makeRate,
  positionAt,
  ramp,
  rampSpan,
  removeKey,
  replay,
  reverseRange,
  setSpeed,
  timesMoved,
  toPositions,
  tracked,
  trimEnd,
  trimStart,
  untracked,
} from '..';

const map: RetimeMap = {
  ...{ sourceRate: makeRate(30), outputRate: makeRate(30), sourceFrames: 400, start: 10 },
  spans: [constantSpan(1, 40), rampSpan(1, 0.5, 20), constantSpan(0.5, 60)],
};
const moved = (edit: (of: RetimeMap) => RetimeMap): ((t: number) => number) => timesMoved(map, edit(tracked(map)));

describe('how output times move with an edit', () => {
  it('says where what lay there lies now', () => {
    const slow = moved((of) => setSpeed(of, { from: 10, to: 20 }, 0.5, 'content'));
    expect([0, 10, 15, 20, 40, 120].map(slow)).toEqual([0, 10, 20, 30, 50, 130]);
    const held = moved((of) => freeze(of, 30, 12, 'content'));
    expect([29, 30, 31, 120].map(held)).toEqual([29, 30, 43, 132]);
    const half = moved((of) => fit(of, 60));
    expect([0, 40, 120].map((t) => half(t))).toEqual([0, 20, 60].map((t) => expect.closeTo(t, 9)));
    const back = moved((of) => reverseRange(of, { from: 0, to: 40 }));
    expect([10, 25, 40, 90].map(back)).toEqual([30, 15, 0, 90]);
    const again = moved((of) => replay(of, { from: 0, to: 30 }, 'again', 1));
    expect([10, 29, 31, 100].map(again)).toEqual([10, 29, 61, 130]);
  });

  it('puts what is cut off before the beginning or past the end', () => {
    expect([10, 50].map(moved((of) => trimStart(of, 30)))).toEqual([-20, 20]);
    expect([10, 100].map(moved((of) => trimEnd(of, 70)))).toEqual([10, 100]);
  });

  it('moves what was replaced in proportion, also at the ends', () => {
    const one = moved((of) => removeKey(of, 1));
    expect([0, 30, 60, 90].map(one)).toEqual([0, 30, 60, 90].map((t) => expect.closeTo(t, 9)));
    // Speeds anew from 60 on to the end, which lasts 30 now.
    const end = moved((of) => setSpeed(of, { from: 60, to: 120 }, 1, 'content'));
    expect([60, 90, 120].map(end)).toEqual([60, 75, 90].map((t) => expect.closeTo(t, 9)));
    const nothing = timesMoved(map, { ...map, spans: [constantSpan(1, 60)] });
    expect([0, 60, 120].map(nothing)).toEqual([0, 30, 60]);
  });

  // The definition: an edit that keeps the content shows at the new time what was shown at the old one.
  it('keeps what is shown, where an edit keeps the content', () => {
    const edits = [
      (of: RetimeMap, t: number) => setSpeed(of, { from: 5, to: Math.min(60, t + 6) }, 0.7, 'content'),
      (of: RetimeMap, t: number) => freeze(of, t, 9, 'content'),
      (of: RetimeMap, t: number) => fit(of, 40 + t),
      (of: RetimeMap) => toPositions(of).map,
      (of: RetimeMap) => ramp(of, { at: 20, frames: 10, to: 2, ease: eases.linear, keeps: 'content' }),
    ];
    const numbers = fc.tuple(
      fc.nat(edits.length - 1),
      fc.integer({ min: 1, max: 100 }),
      fc.integer({ min: 61, max: 119 }),
    );
    fc.assert(
      fc.property(numbers, ([which, t, at]) => {
        const after = edits[which]!(tracked(map), t);
        const now = timesMoved(map, after)(at);
        expect(Math.abs(positionAt(after, now) - positionAt(map, at))).toBeLessThan(which === 3 ? 0.02 : 1e-6);
      }),
      { seed: 3 },
    );
  });

  it('leaves nothing behind in what is kept', () => {
    const after = freeze(tracked(map), 30, 12, 'content');
    const kept = untracked(after.spans);
    expect(kept.flatMap((span) => Object.getOwnPropertySymbols(span))).toEqual([]);
    // What was not touched is the very object that was there, so that nobody looks at it again.
    expect([kept.at(-1), kept.at(-2)]).toEqual([map.spans[2], map.spans[1]]);
    expect(kept.at(-1)).toBe(map.spans[2]);
    expect(compile({ ...after, spans: kept }).length).toBe(132);
    expect(tracked(map)).toBe(tracked(map));
  });
});
