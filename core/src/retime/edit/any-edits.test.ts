import fc from 'fast-check';
import type { RetimeMap } from '@hastig/contract';
import * as core from '..';
import { EditRefused } from '..';
import { anyMap, realTime } from '../../../test/maps';

/** What an edit is made with, all from a few random numbers. */
class Draw {
  private used = 0;
  constructor(private readonly numbers: readonly number[]) {}
  private next(): number {
    return this.numbers[this.used++ % this.numbers.length]!;
  }
  one<T>(of: readonly T[]): T {
    return of[this.next() % of.length]!;
  }
  int(low: number, high: number): number {
    return low + (this.next() % (high - low + 1));
  }
  speed = (): number => this.one([0, 1, this.int(-400, 800) / 100]);
  keeps = (): core.Keeps => this.one(['content', 'length']);
  ease = (): core.Ease => this.one(Object.values(core.eases));
  at = (map: RetimeMap): number => Math.min(core.mapLength(map), this.int(0, 400) + this.one([0, 0, 0.37]));
  span = (map: RetimeMap): number => this.int(0, map.spans.length - 1);
  key = (map: RetimeMap): number => this.int(0, map.spans.length);
  inside = (map: RetimeMap): number => Math.floor((core.mapLength(map) * this.int(3, 7)) / 10);
  /** A key that is neither the first nor the last, where there is one. */
  inner = (map: RetimeMap): number => Math.max(0, Math.min(map.spans.length - 1, 1));
  /** A ramp between two constant-speed parts, where there is one. */
  rampOf = (map: RetimeMap): number =>
    Math.max(
      0,
      map.spans.findIndex((span, index) => index > 0 && index < map.spans.length - 1 && !core.isConstantSpeed(span)),
    );
  range(map: RetimeMap): core.OutputRange {
    const [a, b] = [this.at(map), this.at(map)];
    return { from: Math.min(a, b), to: Math.max(a, b) };
  }
}

const edits: Record<string, (map: RetimeMap, draw: Draw) => RetimeMap> = {
  speed: (map, d) => core.setSpeed(map, d.range(map), d.speed(), d.keeps()),
  level: (map, d) => core.setLevelSpeed(map, d.span(map), d.speed(), d.keeps()),
  ramp: (map, d) =>
    core.ramp(map, {
      at: d.inside(map),
      frames: d.int(1, 8),
      to: d.int(20, 300) / 100,
      ease: d.ease(),
      keeps: d.keeps(),
    }),
  'ramp at a key': (map, d) => core.rampAtKey(map, d.inner(map), d.int(1, 6), d.ease()),
  freeze: (map, d) => core.freeze(map, d.at(map), d.int(1, 60), d.keeps()),
  reverse: (map, d) => core.reverseRange(map, d.range(map)),
  fit: (map, d) => core.fit(map, d.int(1, 900), d.one(['through', 'last-frame'])),
  'join a key': (map, d) => core.joinKey(map, d.key(map), d.keeps()),
  'key speeds': (map, d) => core.setKeySpeeds(map, d.key(map), { in: d.speed(), out: d.speed() }, d.keeps()),
  handles: (map, d) =>
    core.setHandles(map, d.span(map), [d.int(0, 9) / 9, d.int(0, 9) / 9], [d.speed(), d.speed()], d.keeps()),
  'add a key': (map, d) => core.addKey(map, d.at(map)),
  'remove a key': (map, d) => core.removeKey(map, d.key(map)),
  'move a key': (map, d) => core.moveKey(map, d.inner(map), core.keysOf(map)[d.inner(map)]!.output + d.int(-2, 2)),
  'move keys': (map, d) => core.moveKeys(map, [...new Set([d.key(map), d.key(map)])], d.int(-3, 3)),
  'move a ramp': (map, d) => core.moveRamp(map, d.rampOf(map), d.int(-3, 3)),
  'slip a key': (map, d) => core.slipKey(map, d.key(map), d.int(0, map.sourceFrames)),
  slip: (map, d) => core.slipMap(map, d.int(-50, 50)),
  stutter: (map, d) => core.stutter(map, d.range(map), d.int(2, 12)),
  'time lapse': (map, d) => core.timeLapse(map, d.range(map), d.int(2, 20), d.one(['frames', 'speed'])),
  'first frame': (map, d) => core.setFirstFrame(map, d.int(0, map.sourceFrames - 1)),
  'last frame': (map, d) => core.setLastFrame(map, d.int(0, map.sourceFrames - 1)),
  surge: (map, d) =>
    core.surge(map, d.range(map), {
      ...{ outer: d.speed(), inner: d.speed(), ramp: d.int(1, 12), share: d.int(1, 9) / 10 },
      ...{ ease: d.ease(), keeps: d.keeps() },
    }),
  'there and back': (map, d) =>
    core.thereAndBack(map, d.range(map), { ramp: d.int(1, 12), ease: d.ease(), then: d.one(['on', 'end']) }),
  rewind: (map, d) =>
    core.rewind(map, d.at(map), { back: d.int(1, 60), speed: d.int(1, 8), ramp: d.int(1, 12), ease: d.ease() }),
  pin: (map, d) => core.pin(map, Math.floor(d.at(map)), d.one([undefined, d.int(0, map.sourceFrames - 1)])),
  land: (map, d) => core.land(map, { floor: d.one([0, 0.25]) }),
  lock: (map, d) => core.lockPart(map, d.span(map), d.one([true, false])),
  interpolate: (map, d) => core.interpolateSpan(map, d.span(map), d.one(['hold', 'linear', 'smooth'])),
};

const step = fc.record({
  name: fc.constantFrom(...Object.keys(edits)),
  numbers: fc.array(fc.nat(1_000_000), { minLength: 10, maxLength: 10 }),
});

// As clips mostly are: long enough, with ramps between constant-speed parts.
const calm = [0.5, 2].reduce(
  (map, to, n) => core.ramp(map, { at: 100 + 120 * n, frames: 20, to, ease: core.eases.linear, keeps: 'content' }),
  realTime(500),
);

const seeds = [1, Math.floor(Math.random() * 2 ** 31)];
/** Of each edit, how often it was tried and how often it could be done. */
const tally = new Map(Object.keys(edits).map((name) => [name, { tried: 0, done: 0 }]));

it.each(seeds)(
  'any run of edits gives a map whose every number is finite and whose every frame is the source’s; the rest is refused (seed %i)',
  (seed) => {
    fc.assert(
      fc.property(fc.oneof(anyMap(), fc.constant(calm)), fc.array(step, { maxLength: 12 }), (first, steps) => {
        let map = first;
        for (const { name, numbers } of steps) {
          try {
            tally.get(name)!.tried++;
            map = edits[name]!(map, new Draw(numbers));
            tally.get(name)!.done++;
          } catch (error) {
            if (!(error instanceof EditRefused)) throw error;
            continue;
          }
          for (const { frames, x, y, jump = 0 } of map.spans) {
            expect(frames).toBeGreaterThan(0);
            expect([...x, ...y, jump].every(Number.isFinite)).toBe(true);
            expect(Math.min(...x) >= -1e-12 && Math.max(...x) <= 1 + 1e-12).toBe(true);
          }
          const length = core.mapLength(map);
          for (let i = 0; i <= 8; i++) {
            const held = core.heldFrame(map, (length * i) / 8);
            expect(Number.isInteger(held) && held >= 0 && held < map.sourceFrames).toBe(true);
          }
          if (map.spans.length > 300) break;
        }
        core.paceWarnings(map).forEach((warning) => core.remedyFor(map, warning));
        core.keysOf(map);
      }),
      { numRuns: seed === 1 ? 240 : 30, seed },
    );
  },
);

it('each edit is tried often, and can often be done', () => {
  const rare: string[] = [];
  for (const [name, { tried, done }] of tally) {
    if (tried < 10 || done < 3) rare.push(`${name}: ${done} of ${tried}`);
  }
  expect(rare).toEqual([]);
});
