import fc from 'fast-check';
import {
  compile,
  constantSpan,
  easeKeys,
  eases,
  easeSpan,
  fit,
  heldFrame,
  isJoined,
  joinKey,
  keysOf,
  linearPositionSpan,
  lockPart,
  mapLength,
  moveKeys,
  moveRampEdge,
  paceRange,
  pasteTiming,
  positionAt,
  rampSpan,
  removeKeys,
  replay,
  setFirstFrame,
  setHandles,
  setKeySpeeds,
  setSpeed,
  slipKey,
  spanEase,
  speedAt,
  speedBefore,
  stutter,
  timeLapse,
  timingOf,
  withLock,
} from '../..';
import { anyMap, deviation, mapOf, rate, realTime } from '../../../test/maps';

const EXACT = 1e-9;
const slowed = mapOf([constantSpan(1, 50), rampSpan(1, 0.4, 20, eases['ease-in-out']), constantSpan(0.4, 60)]);
const held = (map: Parameters<typeof heldFrame>[0], from: number, to: number): number[] =>
  Array.from({ length: to - from }, (_, n) => heldFrame(map, from + n));

describe('slipping a key in the source', () => {
  it('keeps its output frame and everything beyond its neighbours', () => {
    const map = mapOf([constantSpan(1, 40), constantSpan(1, 40), constantSpan(1, 40)]);
    const slipped = slipKey(map, 1, 50);
    expect(positionAt(slipped, 40)).toBeCloseTo(50, 12);
    expect(slipped.spans[0]!.y[0]).toBeCloseTo(1.25, 12);
    expect(slipped.spans[1]!.y[0]).toBeCloseTo(0.75, 12);
    expect(deviation(slipped, map, 80, 120)).toBeLessThan(EXACT);
  });

  it('keeps joined speeds joined, the ramps following', () => {
    const map = mapOf([...slowed.spans, rampSpan(0.4, 2, 12), constantSpan(2, 40)]);
    const slipped = slipKey(map, 2, positionAt(map, 70) + 3);
    expect(positionAt(slipped, 70)).toBeCloseTo(positionAt(map, 70) + 3, 9);
    for (const key of [1, 2, 3, 4]) expect(isJoined(slipped, key)).toBe(true);
    expect(positionAt(slipped, mapLength(map))).toBeCloseTo(positionAt(map, mapLength(map)), 9);
  });

  it('moves the first frame and the last', () => {
    expect(slipKey(realTime(100), 0, 10)).toMatchObject({ start: 10, spans: [{ frames: 100 }] });
    expect(positionAt(slipKey(realTime(100), 1, 80), 100)).toBeCloseTo(80, 9);
  });

  it('refuses a frame that only a reverse would reach, and one the source does not have', () => {
    const map = mapOf([constantSpan(1, 40), constantSpan(1, 40)]);
    expect(() => slipKey(map, 1, 90)).toThrow('without running backwards');
    expect(() => slipKey(map, 1, 151)).toThrow('frames 0 to 149');
    expect(() => slipKey({ ...map, spans: [withLock(map.spans[0]!, true), map.spans[1]!] }, 1, 41)).toThrow('locked');
  });
});

describe('the two speeds of a key', () => {
  it('are joined: a ramp leads to the held speed beside it', () => {
    const split = mapOf([constantSpan(1, 50), rampSpan(1, 0.6, 20), constantSpan(0.4, 60)]);
    expect(isJoined(split, 2)).toBe(false);
    const joined = joinKey(split, 2, 'length');
    expect(isJoined(joined, 2)).toBe(true);
    expect(speedBefore(joined, 70)).toBeCloseTo(0.4, 12);
  });

  it('two held speeds are joined by a ramp, travel around it unchanged', () => {
    const map = mapOf([constantSpan(1, 50), constantSpan(0.4, 60)]);
    const joined = joinKey(map, 1, 'length');
    expect(joined.spans.map((span) => span.frames)).toEqual([44, 12, 54]);
    expect(deviation(joined, map, 60, 110)).toBeLessThan(EXACT);
  });

  it('two ramps meet halfway', () => {
    const map = mapOf([rampSpan(1, 2, 20), rampSpan(3, 1, 20)]);
    expect(speedAt(joinKey(map, 1, 'length'), 20)).toBe(2.5);
  });

  it('are split and typed, one side or both', () => {
    const split = setKeySpeeds(slowed, 1, { out: 0.8 }, 'length');
    expect([speedBefore(split, 50), speedAt(split, 50)]).toEqual([1, 0.8]);
    const content = setKeySpeeds(slowed, 1, { out: 0.8 }, 'content');
    expect(positionAt(content, mapLength(content))).toBeCloseTo(positionAt(slowed, 130), 9);
    const position = setKeySpeeds(mapOf([linearPositionSpan(40, 40)]), 0, { out: 2 }, 'length');
    expect(speedAt(position, 0)).toBeCloseTo(2, 12);
    expect(positionAt(position, 40)).toBeCloseTo(40, 12);
    expect(() => setKeySpeeds(slowed, 1, { out: Number.NaN }, 'length')).toThrow('number');
  });
});

describe('handles and eases', () => {
  it('keep the length, or the content by another length', () => {
    const length = setHandles(slowed, 1, [0.1, 0.9], [0.9, 0.5], 'length');
    expect(mapLength(length)).toBe(130);
    const content = setHandles(slowed, 1, [0.1, 0.9], [0.9, 0.9], 'content');
    expect(positionAt(content, mapLength(content))).toBeCloseTo(positionAt(slowed, 130), 9);
    expect(content.spans[1]!.frames).toBeLessThan(20);
    expect(setHandles(slowed, 1, [-1, 2], [1, 1], 'length').spans[1]!.x).toEqual([0, 1]);
  });

  it('an ease is given to a ramp between any speeds, and to all ramps beside several keys', () => {
    const eased = easeSpan(slowed, 1, eases['ease-in'], 'content');
    expect(spanEase(eased.spans[1]!)).toEqual(eases['ease-in'].map((value) => expect.closeTo(value, 12)));
    const map = mapOf([...slowed.spans, rampSpan(0.4, 2, 12), constantSpan(2, 40)]);
    const all = easeKeys(map, [1, 2, 3, 4], eases['ease-in'], 'content');
    expect(all.spans.map((span) => spanEase(span)?.[0])).toEqual([
      undefined,
      expect.closeTo(0.42, 12),
      undefined,
      expect.closeTo(0.42, 12),
      undefined,
    ]);
    expect(positionAt(all, mapLength(all))).toBeCloseTo(positionAt(map, mapLength(map)), 9);
    expect(() => easeKeys(realTime(20), [0], eases.ease, 'content')).toThrow('ramp');
  });
});

describe('one edge of a ramp', () => {
  it('moves alone; the other edge and all outside the part beside it stay', () => {
    const wide = moveRampEdge(slowed, 1, -1, 30);
    expect(wide.spans.map((span) => span.frames)).toEqual([40, 30, 60]);
    expect(deviation(wide, slowed, 70, 130)).toBeLessThan(EXACT);
    expect(wide.spans[2]).toEqual(slowed.spans[2]);
    const right = moveRampEdge(slowed, 1, 1, 26);
    expect(right.spans[0]).toEqual(slowed.spans[0]);
    expect(positionAt(right, 130)).toBeCloseTo(positionAt(slowed, 130), 9);
    expect(() => moveRampEdge(slowed, 1, -1, 80)).toThrow('use up');
  });
});

describe('several keys', () => {
  it('move together: between them nothing changes, each keeps its source frame', () => {
    const map = mapOf([constantSpan(1, 50), constantSpan(0.5, 20), constantSpan(2, 20), constantSpan(1, 50)]);
    const moved = moveKeys(map, [1, 2, 3], 10);
    expect(moved.spans.slice(1, 3)).toEqual(map.spans.slice(1, 3));
    for (const key of [1, 2, 3]) {
      const [before, after] = [keysOf(map)[key]!, keysOf(moved)[key]!];
      expect(after.output).toBe(before.output + 10);
      expect(after.source).toBeCloseTo(before.source, 9);
    }
    expect(positionAt(moved, 140)).toBeCloseTo(positionAt(map, 140), 9);
    expect(() => moveKeys(map, [1, 2], 30)).toThrow('can’t pass the keys');
    expect(() => moveKeys(map, [0], 3)).toThrow('ends');
  });
});

describe('removing several keys', () => {
  const map = mapOf([constantSpan(1, 50), constantSpan(0.5, 20), constantSpan(2, 20), constantSpan(1, 50)]);

  it('leaves the others where they are, whatever the order, and keeps both ends', () => {
    const left = removeKeys(map, [1, 3]);
    expect(keysOf(left).map(({ output }) => output)).toEqual([0, 70, 140]);
    expect(removeKeys(map, [3, 0, 1, 4])).toEqual(left);
    expect(positionAt(left, 140)).toBeCloseTo(positionAt(map, 140), 9);
    expect(positionAt(left, 70)).toBeCloseTo(positionAt(map, 70), 9);
    expect(() => removeKeys(map, [0, 4])).toThrow('ends');
  });
});

describe('replay', () => {
  it('shows a range again, at its own speed, and goes on as before', () => {
    const map = replay(realTime(60), { from: 20, to: 30 }, 'again', 0.5);
    expect(mapLength(map)).toBe(80);
    expect(held(map, 28, 34)).toEqual([28, 29, 20, 20, 21, 21]);
    expect(held(map, 49, 52)).toEqual([29, 30, 31]);
  });

  it('runs back and forth', () => {
    const map = replay(realTime(60), { from: 20, to: 24 }, 'back-and-forth', 1);
    expect(held(map, 18, 34)).toEqual([18, 19, 20, 21, 22, 23, 23, 22, 21, 20, 20, 21, 22, 23, 24, 25]);
    expect(() => replay(realTime(60), { from: 0, to: 4 }, 'again', 0)).toThrow('more than 0');
  });

  it('leaves everything else as it was', () => {
    const arbitrary = anyMap().filter((map) => mapLength(map) >= 12);
    fc.assert(
      fc.property(arbitrary, fc.constantFrom('again', 'back-and-forth'), (map, way) => {
        const range = { from: 3, to: 9 };
        const after = replay(map, range, way as 'again', 2);
        const more = mapLength(after) - mapLength(map);
        expect(more).toBeCloseTo(way === 'again' ? 3 : 6, 9);
        const scale = Math.max(1, ...compile(map).positions.map(Math.abs));
        expect(deviation(after, map, 0, 9)).toBeLessThan(EXACT * scale);
        expect(deviation(map, after, 9, mapLength(map), more)).toBeLessThan(EXACT * scale);
      }),
    );
  });
});

describe('stutter and time-lapse', () => {
  it('holds every 4th frame for 4 frames; the length stays', () => {
    const map = stutter(realTime(60), { from: 20, to: 32 }, 4);
    expect(held(map, 18, 34)).toEqual([18, 19, 20, 20, 20, 20, 24, 24, 24, 24, 28, 28, 28, 28, 32, 33]);
    expect(mapLength(map)).toBe(60);
    for (const every of [1, 2.5, Number.NaN]) expect(() => stutter(realTime(60), { from: 0, to: 9 }, every)).toThrow();
  });

  it('shows every 10th frame, whatever the rates', () => {
    const map = timeLapse(
      realTime(240, { sourceRate: rate(60), outputRate: rate(24), spans: [constantSpan(1, 96)] }),
      { from: 0, to: 96 },
      10,
      'frames',
    );
    expect(held(map, 0, 24)).toEqual(Array.from({ length: 24 }, (_, i) => i * 10));
    expect(mapLength(map)).toBeCloseTo(24, 9);
  });

  it('500× makes 13.2 s of 110 min, a time scale of 0.002 (common practice)', () => {
    const frames = 110 * 60 * 30;
    const map = timeLapse(realTime(frames), { from: 0, to: frames }, 500, 'speed');
    expect(mapLength(map) / 30).toBeCloseTo(13.2, 9);
    expect(1 / map.spans[0]!.y[0]).toBe(0.002);
  });
});

describe('a range at once', () => {
  const edges = { frames: 8, ease: eases['ease-in-out'] };

  it('gets a speed, its edges become ramps, and nothing outside them moves', () => {
    const plain = setSpeed(realTime(150), { from: 50, to: 100 }, 0.5, 'content');
    const map = paceRange(realTime(150), { from: 50, to: 100 }, { give: 'speed', speed: 0.5, keeps: 'content' }, edges);
    expect(map.spans.map((span) => span.frames)).toEqual([46, 8, 92, 8, 46]);
    expect(deviation(map, plain, 0, 46)).toBeLessThan(EXACT);
    expect(deviation(map, plain, 54, 146)).toBeLessThan(EXACT);
    expect(deviation(map, plain, 154, 200)).toBeLessThan(EXACT);
  });

  it('8 s squeezed into 1 s runs at a mean of 800% (common practice)', () => {
    const map = paceRange(realTime(600), { from: 100, to: 340 }, { give: 'duration', frames: 30 });
    expect(speedAt(map, 115)).toBeCloseTo(8, 12);
    expect(mapLength(map)).toBeCloseTo(390, 9);
  });

  it('freezes, and goes on from the held frame', () => {
    const map = paceRange(realTime(150), { from: 50, to: 74 }, { give: 'freeze' });
    expect(new Set(held(map, 50, 75))).toEqual(new Set([50]));
    expect(heldFrame(map, 76)).toBe(52);
    expect(paceRange(realTime(150), { from: 50, to: 74 }, { give: 'freeze' }, edges).spans).toHaveLength(5);
  });

  it('reverses; with edges it starts from and comes to a standstill and passes the same frames', () => {
    const hard = paceRange(realTime(150), { from: 50, to: 100 }, { give: 'reverse' });
    expect(held(hard, 49, 52)).toEqual([49, 99, 98]);
    expect(held(hard, 98, 102)).toEqual([51, 50, 100, 101]);
    const soft = paceRange(realTime(150), { from: 50, to: 100 }, { give: 'reverse' }, edges);
    expect(mapLength(soft)).toBeCloseTo(158, 9);
    expect(positionAt(soft, 50)).toBe(99);
    expect(speedAt(soft, 50)).toBe(0);
    expect(positionAt(soft, 108)).toBeCloseTo(100, 9);
  });

  it('refuses edges where a ramp already leads to the range', () => {
    const pace = { give: 'speed', speed: 2, keeps: 'content' } as const;
    expect(() => paceRange(slowed, { from: 60, to: 100 }, pace, edges)).toThrow('ramp already');
    expect(() => paceRange(slowed, { from: 60, to: 100 }, { give: 'duration', frames: 0 })).toThrow('longer than 0');
  });
});

describe('copied timing', () => {
  it('is pasted whole', () => {
    expect(pasteTiming(realTime(500), timingOf(slowed), 'exact').spans).toEqual(slowed.spans);
  });

  it('only its shape: the target keeps its length and its content', () => {
    const target = mapOf([constantSpan(0.5, 400)], { start: 20, sourceFrames: 300 });
    const pasted = pasteTiming(target, timingOf(slowed), 'shape');
    expect(mapLength(pasted)).toBeCloseTo(400, 9);
    expect(positionAt(pasted, 0)).toBe(20);
    expect(positionAt(pasted, 400)).toBeCloseTo(220, 9);
    expect(pasted.spans[0]!.y[0] / pasted.spans[2]!.y[0]).toBeCloseTo(2.5, 12);
    expect(() => pasteTiming(target, timingOf(mapOf([constantSpan(0, 5)])), 'shape')).toThrow('shape');
  });
});

describe('a lock', () => {
  it('is set on one part and taken off again, and changes no frame', () => {
    const map = mapOf([constantSpan(1, 50), constantSpan(0.5, 40)]);
    const locked = lockPart(map, 1, true);
    expect(locked.spans.map((span) => !!span.locked)).toEqual([false, true]);
    expect(deviation(locked, map, 0, 90)).toBe(0);
    expect(lockPart(locked, 1, false)).toEqual(map);
    expect(() => lockPart(map, 2, true)).toThrow('doesn’t exist');
  });
});

describe('locks', () => {
  const locked = mapOf([constantSpan(1, 50), withLock(constantSpan(0.5, 40), true), constantSpan(1, 50)]);

  it('fitting changes the other spans only', () => {
    const fitted = fit(locked, 90);
    expect(fitted.spans.map((span) => [span.frames, span.y[0]])).toEqual([
      [25, 2],
      [40, 0.5],
      [25, 2],
    ]);
    expect(mapLength(fitted)).toBe(90);
    expect(() => fit(locked, 40)).toThrow('locked parts alone are 40 frames long');
    const last = fit(locked, 101, 'last-frame');
    expect(positionAt(last, 100)).toBeCloseTo(119, 9);
    expect(last.spans[1]).toEqual(locked.spans[1]);
  });

  it('edits of a locked part are refused; cutting keeps the lock on both parts', () => {
    expect(() => setSpeed(locked, { from: 60, to: 70 }, 2, 'content')).toThrow('locked');
    expect(() => stutter(locked, { from: 60, to: 70 }, 2)).toThrow('locked');
    const cut = setFirstFrame(locked, 55);
    expect(cut.spans[0]!.locked).toBe(true);
  });
});
