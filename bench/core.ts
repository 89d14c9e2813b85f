import type { Rate, RetimeMap } from '@hastig/contract';
import {
  addKey,
  cadences,
  compile,
  constantSpan,
  eases,
  keysOf,
  land,
  moveKey,
  paceWarnings,
  pinsMet,
  positionAt,
  rampSpan,
  removeKey,
  setLevelSpeed,
  slipKey,
} from '@hastig/core';
import { line } from './line';
import { quickest } from './quickest';

const rate = (num: number, den = 1): Rate => ({ num, den });

const base = { sourceRate: rate(60), outputRate: rate(24), sourceFrames: 1_000_000, start: 0 };

function benchLookups(): void {
  const spans = Array.from({ length: 50 }, (_, i) =>
    i % 2 ? rampSpan(0.4, 3, 200, eases['ease-in-out']) : constantSpan(i % 4 ? 3 : 0.4, 200),
  );
  const ready = compile({ ...base, spans });
  let sum = 0;
  const lookups = quickest(() => {
    for (let i = 0; i < 1_000_000; i++) sum += positionAt(ready, (i * 7919) % 10_000);
  });
  const reference = quickest(() => {
    for (let i = 0; i < 1_000_000; i++) sum += Math.sin((i * 7919) % 10_000);
  });
  if (!Number.isFinite(sum)) throw new Error('the look-ups went wrong');
  line(
    '1 M positions, 50 spans',
    `${lookups.toFixed(0)} ms (1 M Math.sin: ${reference.toFixed(0)} ms, ratio ${(lookups / reference).toFixed(1)})`,
  );
}

function benchEdits(): void {
  const spans = Array.from({ length: 9999 }, (_, i) =>
    i % 2 ? rampSpan(1 + ((i - 1) % 4) / 4, 1 + ((i + 1) % 4) / 4, 4) : constantSpan(1 + (i % 4) / 4, 10),
  );
  const map: RetimeMap = { ...base, spans };
  const at = compile(map).times[5000]!;
  const edits: Record<string, () => RetimeMap> = {
    'set a speed': () => setLevelSpeed(map, 5000, 0.7, 'content'),
    'add a key': () => addKey(map, at + 5),
    'remove a key': () => removeKey(map, 5000),
    'move a key': () => moveKey(map, 5000, at + 1),
    'slip a key': () => slipKey(map, 5000, compile(map).positions[5000]! + 1),
  };
  const keys = keysOf(map).length;
  for (const [name, edit] of Object.entries(edits)) {
    line(`${name}, ${keys} keys`, `${quickest(() => void compile(edit())).toFixed(2)} ms, ready for look-ups`);
  }
}

function benchLanding(): void {
  const spans = Array.from({ length: 200 }, (_, i) =>
    i % 2 ? rampSpan(1 + ((i - 1) % 4) / 4, 1 + ((i + 1) % 4) / 4, 6, eases.ease) : constantSpan(1 + (i % 4) / 4, 10),
  );
  const map: RetimeMap = { ...base, spans };
  const pins = Array.from({ length: 50 }, (_, i) => {
    const output = 31 * (i + 1);
    return { output, source: Math.round(positionAt(map, output)) + (i % 4) };
  });
  const pinned = { ...map, pins };
  if (!pinsMet(land(pinned))) throw new Error('the landing went wrong');
  line('50 pins over 200 spans', `${quickest(() => void land(pinned)).toFixed(2)} ms`);
}

/** What is counted anew while a clip is dragged: two hours at 60 frames a second, slowed to a quarter. */
function benchReport(): void {
  const map: RetimeMap = { ...base, sourceFrames: 432_000, spans: [constantSpan(0.25, 691_200)] };
  if (paceWarnings(map).length === 0) throw new Error('slow motion below the floor was not told');
  const took = (report: (map: RetimeMap) => unknown): string => `${quickest(() => void report(map)).toFixed(1)} ms`;
  line('8 hours of slow motion, 691 200 frames', `warnings ${took(paceWarnings)}, cadence ${took(cadences)}`);
}

/** Figures of the core, in Node. */
export function benchCore(): void {
  benchLookups();
  benchEdits();
  benchLanding();
  benchReport();
}
