import fc from 'fast-check';
import type { Rate, RetimeMap, Span } from '@hastig/contract';
import { constantSpan, linearPositionSpan, mapLength, positionAt, rampSpan } from '../src';

export const rate = (num: number, den = 1): Rate => ({ num, den });

/** A map at equal rates of 30 unless said otherwise. */
export function mapOf(spans: Span[], changes: Partial<RetimeMap> = {}): RetimeMap {
  return { sourceRate: rate(30), outputRate: rate(30), sourceFrames: 150, start: 0, spans, ...changes };
}

/** A clip of `frames` source frames at real time. */
export const realTime = (frames: number, changes: Partial<RetimeMap> = {}): RetimeMap =>
  mapOf([constantSpan(1, frames)], { sourceFrames: frames, ...changes });

const unit = fc.double({ min: 0, max: 1, noNaN: true });
const speed = fc.double({ min: -8, max: 8, noNaN: true });
const length = fc.integer({ min: 1, max: 200 });

export const anySpeedSpan: fc.Arbitrary<Span> = fc
  .record({ frames: length, x: fc.tuple(unit, unit), y: fc.tuple(speed, speed, speed, speed) })
  .map((parts) => ({ of: 'speed', ...parts }));

const anySpan: fc.Arbitrary<Span> = fc.oneof(
  anySpeedSpan,
  fc.tuple(speed, length).map(([value, frames]) => constantSpan(value, frames)),
  fc.tuple(speed, speed, length).map(([from, to, frames]) => rampSpan(from, to, frames)),
  fc.tuple(fc.integer({ min: -300, max: 300 }), length).map(([travel, frames]) => linearPositionSpan(travel, frames)),
);

const anyRate = fc.constantFrom(rate(24), rate(25), rate(30), rate(60), rate(30000, 1001), rate(120));

export const anyMap = (span: fc.Arbitrary<Span> = anySpan): fc.Arbitrary<RetimeMap> =>
  fc.record({
    sourceRate: anyRate,
    outputRate: anyRate,
    sourceFrames: fc.integer({ min: 1, max: 5000 }),
    start: fc.integer({ min: 0, max: 1000 }),
    spans: fc.array(span, { minLength: 1, maxLength: 8 }),
  });

/** A whole-frame range inside a map, at least one frame long. */
export const anyMapAndRange = anyMap()
  .filter((map) => mapLength(map) >= 4)
  .chain((map) =>
    fc
      .tuple(fc.nat(Math.floor(mapLength(map)) - 2), fc.integer({ min: 1, max: 400 }))
      .map(([from, frames]) => ({ map, range: { from, to: Math.min(Math.floor(mapLength(map)), from + frames) } })),
  );

/** Largest difference of two position functions over a stretch, at `samples` moments off the joints. */
export function deviation(a: RetimeMap, b: RetimeMap, from: number, to: number, shift = 0, samples = 97): number {
  let most = 0;
  for (let i = 0; i < samples; i++) {
    const t = from + ((to - from) * (i + 0.387)) / samples;
    most = Math.max(most, Math.abs(positionAt(a, t) - positionAt(b, t + shift)));
  }
  return most;
}
