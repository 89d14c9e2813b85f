import fc from 'fast-check';
import type { RetimeMap } from '@hastig/contract';
import {
  constantSpan,
  easeRamp,
  eases,
  EditRefused,
  fit,
  frameCount,
  freeze,
  heldFrame,
  keysOf,
  mapLength,
  positionAt,
  positionBefore,
  ramp,
  rampAtKey,
  rampSpan,
  reverseRange,
  setFirstFrame,
  setLastFrame,
  setLevelSpeed,
  setSpeed,
  speedAt,
  trimEnd,
  trimStart,
  widenRamp,
} from '../..';
import { anyMap, anyMapAndRange, deviation, mapOf, realTime } from '../../../test/maps';

const EXACT = 1e-9;
const held = (map: Parameters<typeof heldFrame>[0], from: number, to: number): number[] =>
  Array.from({ length: to - from }, (_, n) => heldFrame(map, from + n));

describe('speed of a range', () => {
  it('77 frames (2 s 17 f at 30) into 2 s need 128.33% (common practice)', () => {
    const map = setSpeed(realTime(77), { from: 0, to: 77 }, 77 / 60, 'content');
    expect(mapLength(map)).toBeCloseTo(60, 12);
  });

  it('slows the middle third to 40% and moves what follows', () => {
    const map = setSpeed(realTime(150), { from: 50, to: 100 }, 0.4, 'content');
    expect(map.spans.map((span) => [span.frames, span.y[0]])).toEqual([
      [50, 1],
      [125, 0.4],
      [50, 1],
    ]);
    expect(heldFrame(map, 175)).toBe(100);
  });

  it('keeps the length and lets what follows start earlier', () => {
    const map = setSpeed(realTime(150), { from: 50, to: 100 }, 0.5, 'length');
    expect([mapLength(map), positionAt(map, 100), positionAt(map, 150)]).toEqual([150, 75, 125]);
  });

  it('plays content backwards at a negative speed', () => {
    const map = setSpeed(realTime(30), { from: 10, to: 20 }, -2, 'content');
    expect(held(map, 8, 18)).toEqual([8, 9, 19, 17, 15, 13, 11, 20, 21, 22]);
  });

  it('keeps the content of any range, and all around it', () => {
    fc.assert(
      fc.property(anyMapAndRange, fc.double({ min: 0.05, max: 20, noNaN: true }), ({ map, range }, speed) => {
        const content = positionBefore(map, range.to) - positionAt(map, range.from);
        fc.pre(Math.abs(content) > 1e-3);
        const signed = Math.sign(content) * speed;
        const edited = setSpeed(map, range, signed, 'content');
        const shift = mapLength(edited) - mapLength(map);
        const end = range.to + shift;
        expect(positionAt(edited, range.from)).toBeCloseTo(positionAt(map, range.from), 8);
        expect(positionBefore(edited, end)).toBeCloseTo(positionBefore(map, range.to), 7);
        expect(speedAt(edited, (range.from + end) / 2)).toBe(signed);
        expect(deviation(map, edited, range.to, mapLength(map), shift)).toBeLessThan(1e-7);
        if (range.from > 0) expect(deviation(map, edited, 0, range.from)).toBeLessThan(EXACT);
      }),
    );
  });

  it.each([
    ['0% with the content kept', () => setSpeed(realTime(10), { from: 0, to: 10 }, 0, 'content'), 'never ends'],
    ['a frozen range', () => setSpeed(mapOf([constantSpan(0, 9)]), { from: 0, to: 9 }, 1, 'content'), 'stands still'],
    ['an empty range', () => setSpeed(realTime(10), { from: 5, to: 5 }, 1, 'content'), 'empty'],
    ['a range outside', () => setSpeed(realTime(10), { from: 5, to: 50 }, 1, 'length'), 'within'],
    ['no number', () => setSpeed(realTime(10), { from: 0, to: 5 }, NaN, 'length'), 'number'],
  ])('refuses %s and says why', (_, edit, reason) => {
    expect(edit).toThrow(EditRefused);
    expect(edit).toThrow(reason);
  });

  it('never changes the map it was given', () => {
    const map = realTime(100);
    const before = JSON.stringify(map);
    setSpeed(map, { from: 10, to: 20 }, 3, 'content');
    reverseRange(map, { from: 10, to: 20 });
    freeze(map, 5, 5, 'content');
    expect(JSON.stringify(map)).toBe(before);
  });
});

describe('speed of a constant-speed part', () => {
  const shaped = mapOf(
    [constantSpan(1, 40), rampSpan(1, 0.4, 12), constantSpan(0.4, 50), rampSpan(0.4, 1, 12), constantSpan(1, 40)],
    {
      sourceFrames: 400,
    },
  );

  it('takes its ramps along and keeps all content around it', () => {
    const edited = setLevelSpeed(shaped, 2, 0.2, 'content');
    expect(edited.spans[1]!.y[3]).toBe(0.2);
    expect(edited.spans[3]!.y[0]).toBe(0.2);
    expect([edited.spans[1]!.frames, edited.spans[3]!.frames]).toEqual([12, 12]);
    expect(positionAt(edited, mapLength(edited))).toBeCloseTo(positionAt(shaped, mapLength(shaped)), 9);
  });

  it('keeps the length if asked, and refuses a speed at which the ramps eat the content', () => {
    expect(mapLength(setLevelSpeed(shaped, 2, 3, 'length'))).toBe(mapLength(shaped));
    expect(() => setLevelSpeed(shaped, 2, 8, 'content')).toThrow('Shorten them');
    expect(() => setLevelSpeed(shaped, 1, 1, 'content')).toThrow('doesn’t hold one speed');
  });
});

describe('reverse', () => {
  it('shows out−1 first, then down to in', () => {
    const map = reverseRange(realTime(150), { from: 0, to: 150 });
    expect(held(map, 0, 150)).toEqual(Array.from({ length: 150 }, (_, n) => 149 - n));
  });

  it('turns round a part and leaves the rest in its place', () => {
    expect(held(reverseRange(realTime(12), { from: 3, to: 7 }), 0, 12)).toEqual([0, 1, 2, 6, 5, 4, 3, 7, 8, 9, 10, 11]);
  });

  it('mirrors what slow motion shows, with no frame from outside', () => {
    const slow = setSpeed(realTime(10), { from: 0, to: 10 }, 0.5, 'content');
    expect(held(reverseRange(slow, { from: 0, to: 20 }), 0, 20)).toEqual(held(slow, 0, 20).reverse());
    const fast = setSpeed(realTime(10), { from: 0, to: 10 }, 2, 'content');
    expect(held(reverseRange(fast, { from: 0, to: 5 }), 0, 5)).toEqual([9, 7, 5, 3, 1]);
  });

  it('is undone by itself where hardly anything moves and a cut lands a rounding error beside its joint', () => {
    const map = mapOf(
      [
        { ...constantSpan(0, 123), x: [0.8944513161752051, 0], y: [3.928413099367795e-6, 0, 0, 0] },
        constantSpan(0, 201),
      ],
      { sourceFrames: 1 },
    );
    const range = { from: 84, to: 124 };
    expect(deviation(map, reverseRange(reverseRange(map, range), range), 0, 324)).toBeLessThan(EXACT);
  });

  it('is undone by itself', () => {
    fc.assert(
      fc.property(anyMapAndRange, ({ map, range }) => {
        const twice = reverseRange(reverseRange(map, range), range);
        expect(mapLength(twice)).toBeCloseTo(mapLength(map), 9);
        expect(deviation(map, twice, 0, mapLength(map))).toBeLessThan(1e-8);
      }),
      { numRuns: 300 },
    );
  });
});

describe('freeze', () => {
  it('inserts frames and moves the rest', () => {
    expect(held(freeze(realTime(6), 3, 4, 'content'), 0, 10)).toEqual([0, 1, 2, 3, 3, 3, 3, 3, 4, 5]);
  });

  it('lies over what follows, which stays in its place', () => {
    const map = freeze(realTime(10), 3, 4, 'length');
    expect(held(map, 0, 10)).toEqual([0, 1, 2, 3, 3, 3, 3, 7, 8, 9]);
    expect(mapLength(freeze(realTime(10), 8, 40, 'length'))).toBe(10);
  });

  it('keeps every other position', () => {
    fc.assert(
      fc.property(anyMapAndRange, fc.integer({ min: 1, max: 90 }), ({ map, range }, frames) => {
        const edited = freeze(map, range.from, frames, 'content');
        expect(mapLength(edited)).toBeCloseTo(mapLength(map) + frames, 9);
        expect(deviation(map, edited, range.from, mapLength(map), frames)).toBeLessThan(EXACT);
        expect(speedAt(edited, range.from + frames / 2)).toBe(0);
      }),
    );
  });

  it('works at both ends, and refuses no length', () => {
    expect(held(freeze(realTime(3), 0, 2, 'content'), 0, 5)).toEqual([0, 0, 0, 1, 2]);
    expect(frameCount(freeze(realTime(3), 3, 2, 'content'))).toBe(5);
    expect(() => freeze(realTime(3), 1, 0, 'content')).toThrow('longer than 0');
    expect(() => freeze(realTime(3), 9, 1, 'content')).toThrow('outside');
  });
});

describe('fit', () => {
  it('150 frames into the gap 2:01 → 9:00 at 30 run at 150/209 (common practice)', () => {
    const map = fit(realTime(150), 209);
    expect(speedAt(map, 100)).toBeCloseTo(150 / 209, 12);
    expect(positionAt(map, 209)).toBeCloseTo(150, 9);
  });

  it('hits any length, the content and the shape of the curve kept', () => {
    fc.assert(
      fc.property(anyMap(), fc.integer({ min: 2, max: 5000 }), (map, frames) => {
        const fitted = fit(map, frames);
        expect(mapLength(fitted)).toBeCloseTo(frames, 8);
        const factor = mapLength(map) / frames;
        for (const share of [0.1, 0.37, 0.5, 0.93]) {
          expect(positionAt(fitted, share * frames)).toBeCloseTo(positionAt(map, share * frames * factor), 6);
        }
      }),
    );
  });

  it.each([300, 75, 150, 209])('shows the last frame on the last of %i frames', (frames) => {
    const map = fit(realTime(150), frames, 'last-frame');
    expect(frameCount(map)).toBe(frames);
    expect(positionAt(map, frames - 1)).toBeCloseTo(149, 9);
    expect(heldFrame(map, 0)).toBe(0);
  });

  it('shows the last frame of a reversed clip too', () => {
    const map = fit(reverseRange(realTime(150), { from: 0, to: 150 }), 100, 'last-frame');
    expect([heldFrame(map, 0), heldFrame(map, 99), frameCount(map)]).toEqual([149, 0, 100]);
  });

  it.each([0, -5, Infinity, NaN])('refuses a length of %d', (frames) => {
    expect(() => fit(realTime(10), frames)).toThrow(EditRefused);
  });
});

describe('ramp', () => {
  const base = realTime(200, { sourceFrames: 200 });

  it('leads from the speed before to the speed asked for, content kept', () => {
    const map = ramp(base, { at: 100, frames: 24, to: 0.4, ease: eases['ease-in-out'], keeps: 'content' });
    expect([speedAt(map, 80), speedAt(map, 100), speedAt(map, 130)]).toEqual([1, expect.closeTo(0.7, 9), 0.4]);
    expect(positionAt(map, mapLength(map))).toBeCloseTo(200, 9);
    expect(mapLength(map)).toBeCloseTo(100 + 100 / 0.4, 9);
    expect(positionAt(map, 88)).toBeCloseTo(88, 9);
    expect(positionAt(map, 112)).toBeCloseTo(100 + 12 * 0.4, 9);
  });

  it.each(['ease', 'ease-in', 'ease-out', 'ease-in-out', 'linear'] as const)(
    'moves nothing outside it, whatever the ease (%s)',
    (name) => {
      const jumped = setSpeed(base, { from: 100, to: 200 }, 0.5, 'content');
      const eased = rampAtKey(jumped, 1, 30, eases[name]);
      const { times } = { times: keysOf(eased).map((key) => key.output) };
      expect(times[2]! - times[1]!).toBeCloseTo(30, 9);
      expect(deviation(jumped, eased, 0, times[1]!)).toBeLessThan(EXACT);
      expect(deviation(jumped, eased, times[2]!, mapLength(jumped))).toBeLessThan(EXACT);
      const other = easeRamp(eased, 1, eases.ease);
      expect(deviation(jumped, other, keysOf(other)[2]!.output, mapLength(jumped))).toBeLessThan(EXACT);
    },
  );

  it('takes along a ramp that is joined to the far end of the part it changes', () => {
    const dip = ramp(ramp(base, { at: 60, frames: 10, to: 0.5, keeps: 'content' }), {
      at: 160,
      frames: 10,
      to: 1,
      keeps: 'content',
    });
    const twice = ramp(dip, { at: 110, frames: 10, to: 2, keeps: 'content' });
    const out = twice.spans.map((span) => [span.y[0], span.y[3]]);
    out.slice(1).forEach(([from], i) => expect(from).toBe(out[i]![1]));
    expect(positionAt(twice, mapLength(twice))).toBeCloseTo(200, 9);
  });

  it('can end or start at the moment, content or length kept', () => {
    const ending = ramp(base, { at: 100, frames: 20, to: 2, place: 'ending', keeps: 'content' });
    expect(positionAt(ending, mapLength(ending))).toBeCloseTo(200, 9);
    expect(speedAt(ending, mapLength(ending) - 50)).toBe(2);
    const starting = ramp(base, { at: 100, frames: 20, to: 2, place: 'starting', keeps: 'length' });
    expect([speedAt(starting, 99), speedAt(starting, 110), speedAt(starting, 121)]).toEqual([1, 1.5, 2]);
    expect(mapLength(starting)).toBe(200);
  });

  it('changes the speed before it too when asked', () => {
    const map = ramp(base, { at: 100, frames: 10, from: 2, to: 0.5, keeps: 'content' });
    expect([map.spans[0]!.y[0], map.spans.at(-1)!.y[0]]).toEqual([2, 0.5]);
    expect(positionAt(map, mapLength(map))).toBeCloseTo(200, 9);
  });

  it('widens and narrows without touching anything outside, down to the jump', () => {
    const map = ramp(base, { at: 100, frames: 24, to: 0.4, ease: eases['ease-in'], keeps: 'content' });
    const wide = widenRamp(map, 1, 60);
    const back = widenRamp(wide, 1, 24);
    expect(deviation(map, back, 0, mapLength(map))).toBeLessThan(EXACT);
    const jump = widenRamp(map, 1, 0);
    expect(jump.spans).toHaveLength(2);
    expect(positionAt(jump, mapLength(jump))).toBeCloseTo(200, 9);
  });

  it('says how much room there is', () => {
    expect(() => rampAtKey(setSpeed(base, { from: 100, to: 110 }, 2, 'content'), 1, 30)).toThrow(
      /needs 15 frames after.*leaves 5/,
    );
    expect(() => ramp(base, { at: 0, frames: 5, to: 2, keeps: 'content' })).toThrow('before and after');
    expect(() => ramp(base, { at: 50, frames: 0, to: 2, keeps: 'content' })).toThrow('longer than 0');
    expect(() => widenRamp(base, 0, 5)).toThrow('between two constant speeds');
  });
});

describe('first and last frame', () => {
  it('drops what lies outside', () => {
    const map = setLastFrame(setFirstFrame(realTime(150), 20), 99);
    expect([frameCount(map), heldFrame(map, 0), heldFrame(map, 79)]).toEqual([80, 20, 99]);
  });

  it('brings frames back at the speed of that end', () => {
    const short = trimEnd(trimStart(setSpeed(realTime(150), { from: 0, to: 150 }, 0.5, 'content'), 40), 100);
    const long = setLastFrame(setFirstFrame(short, 0), 149);
    expect([frameCount(long), heldFrame(long, 0), heldFrame(long, 299)]).toEqual([300, 0, 149]);
  });

  it('refuses frames that do not exist or are never shown', () => {
    expect(() => setFirstFrame(realTime(150), 150)).toThrow('frames 0 to 149');
    expect(() => setFirstFrame(trimEnd(realTime(150), 20), 120)).toThrow('never shows');
  });
});

it('an edit that would make a clip last next to for ever is refused', () => {
  const creeping = mapOf([rampSpan(1, 0, 20)], { start: 10 });
  const end = creeping.spans[0]!;
  // A rounding error above a standstill leads to no frame.
  const almost = { ...creeping, spans: [{ ...end, y: [1, 1, 0, 1e-13] as const }] } as RetimeMap;
  expect(() => setLastFrame(almost, 140)).toThrow('extending its end doesn’t reach it');
  expect(() => setSpeed(realTime(150), { from: 0, to: 150 }, 1e-6, 'content')).toThrow(
    'would be longer than 100000000 frames',
  );
});
