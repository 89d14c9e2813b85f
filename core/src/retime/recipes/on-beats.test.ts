import { mapOf, realTime } from '../../../test/maps';
import {
  bursts,
  compile,
  constantSpan,
  drive,
  eases,
  followLoudness,
  heldFrame,
  landingOf,
  landPairs,
  mapLength,
  positionAt,
  speedAt,
} from '../..';

const whole = (map: Parameters<typeof mapLength>[0]) => ({ from: 0, to: mapLength(map) });
const options = {
  base: 0.5,
  speeds: [8],
  frames: 5,
  place: 'from',
  ramp: 0,
  ease: eases.linear,
  keeps: 'length',
} as const;

describe('bursts', () => {
  const map = realTime(600);

  it('pass frames × speed source frames each: 5 at 800% are 40 (common practice)', () => {
    const made = bursts(map, whole(map), [15, 30, 45], options);
    const at = (frame: number): number => positionAt(made, frame);
    expect(at(15)).toBeCloseTo(7.5, 9);
    expect(at(20) - at(15)).toBeCloseTo(40, 9);
    expect(at(30) - at(20)).toBeCloseTo(5, 9);
    expect(at(35) - at(30)).toBeCloseTo(40, 9);
    expect(mapLength(made)).toBeCloseTo(600, 9);
  });

  it('are right frame by frame', () => {
    const made = bursts(map, { from: 10, to: 70 }, [15, 30.5, 45], options);
    const ready = compile(made);
    let position = 10;
    for (let frame = 10; frame < 70; frame++) {
      expect(heldFrame(ready, frame)).toBe(Math.floor(position + 1e-6));
      for (let part = 0; part < 10; part++) {
        const t = frame + (part + 0.5) / 10;
        const inside = [15, 30.5, 45].some((mark) => t > mark && t < mark + 5);
        position += (inside ? 8 : 0.5) / 10;
      }
    }
  });

  it.each([
    ['to', 10, 15],
    ['centred', 12.5, 17.5],
  ] as const)('%s: lie up to the marker, or to both sides of it', (place, from, to) => {
    const made = bursts(map, whole(map), [15], { ...options, place });
    expect(speedAt(made, from - 0.01)).toBe(0.5);
    expect(speedAt(made, from + 0.01)).toBe(8);
    expect(speedAt(made, to - 0.01)).toBe(8);
    expect(speedAt(made, to + 0.01)).toBe(0.5);
  });

  it('take turns with their speeds, and end where the next begins', () => {
    const made = bursts(map, whole(map), [10, 13, 30], { ...options, speeds: [8, 4] });
    expect(speedAt(made, 12.9)).toBe(8);
    expect(speedAt(made, 13.1)).toBe(4);
    expect(speedAt(made, 31)).toBe(8);
  });

  it('with ramps stay inside their frames', () => {
    const made = bursts(map, whole(map), [10], { ...options, ramp: 2 });
    expect(speedAt(made, 10)).toBe(0.5);
    expect(speedAt(made, 12.5)).toBe(8);
    expect(speedAt(made, 15)).toBeCloseTo(0.5, 9);
    expect(positionAt(made, 15) - positionAt(made, 10)).toBeCloseTo(8 + 2 * 2 * 4.25, 9);
  });

  it('preserving the content go on until all of it has been shown, also past the last marker', () => {
    const made = bursts(map, { from: 0, to: 60 }, [0, 30, 60], { ...options, keeps: 'content' });
    // 40 + 12.5 + the rest of 60 source frames in the second burst.
    const end = 30 + (60 - 52.5) / 8;
    expect(positionAt(made, end)).toBeCloseTo(60, 9);
    expect(speedAt(made, end + 0.01)).toBe(1);
    expect(mapLength(made)).toBeCloseTo(540 + end, 9);
  });

  it('that cannot be are refused, and why is told', () => {
    expect(() => bursts(map, whole(map), [], options)).toThrow('no markers in this range');
    expect(() => bursts(map, whole(map), [5], { ...options, frames: 0 })).toThrow('longer than 0');
    expect(() => bursts(map, whole(map), [5], { ...options, ramp: 3 })).toThrow('longer than the burst');
    expect(() => bursts(map, whole(map), [5], { ...options, base: 0, keeps: 'content' })).toThrow('never show all');
  });
});

describe('drive', () => {
  const map = realTime(300);

  it('rises to each marker and drops at it', () => {
    const made = drive(map, whole(map), [20, 40], {
      shape: 'rise',
      low: 0.5,
      high: 2,
      ease: eases.linear,
      keeps: 'length',
    });
    expect(speedAt(made, 0)).toBe(0.5);
    expect(speedAt(made, 19.999)).toBeCloseTo(2, 3);
    expect(speedAt(made, 20)).toBe(0.5);
    expect(speedAt(made, 100)).toBe(0.5);
    expect(positionAt(made, 40)).toBeCloseTo(50, 9);
  });

  it('changes at each marker', () => {
    const made = drive(map, whole(map), [20, 40], {
      shape: 'change',
      low: 0.5,
      high: 2,
      ease: eases.linear,
      keeps: 'length',
    });
    expect([10, 30, 50].map((at) => speedAt(made, at))).toEqual([0.5, 2, 0.5]);
  });
});

describe('following loudness', () => {
  it('stays within a tenth of an octave of what the loudness asks for, with few keys', () => {
    const map = realTime(400);
    const loudness = (frame: number): number => Math.max(0, 1 - (frame % 50) / 25);
    const made = followLoudness(map, whole(map), loudness, { floor: 0.25, ceiling: 4, keeps: 'length' });
    for (let frame = 0; frame < 400; frame++) {
      const off = Math.log2(speedAt(made, frame)) - Math.log2(0.25 * 16 ** loudness(frame));
      expect(Math.abs(off)).toBeLessThan(0.1);
    }
    expect(made.spans.length).toBeLessThan(400 / 3);
  });
});

describe('pairs landed at once', () => {
  it('lie on their output times to a millionth of a frame, and what it comes to is told', () => {
    const map = mapOf([constantSpan(1, 300)], { sourceFrames: 300 });
    const pairs = [
      { output: 24, source: 20 },
      { output: 48.37, source: 55.5 },
      { output: 96, source: 90 },
    ];
    const made = landPairs(map, pairs);
    for (const { output, source } of pairs) expect(Math.abs(positionAt(made, output) - source)).toBeLessThan(1e-6);
    const landing = landingOf(made, pairs);
    expect(landing.least).toBeCloseTo(34.5 / 47.63, 3);
    expect(landing.greatest).toBeCloseTo(35.5 / 24.37, 3);
    landing.misses.forEach((miss) => expect(Math.abs(miss)).toBeLessThan(1e-6));
    expect(made.pins).toHaveLength(3);
  });
});
