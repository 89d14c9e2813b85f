import type { Rate } from '@hastig/contract';
import { parseSpeed, parseTime, type Parsed, type TimeUnit } from '@hastig/core';
import { useState } from 'react';

/** A number being typed: its text, its value when it is one, and what is wrong with it. */
export interface Entry {
  text: string;
  set(text: string): void;
  value: number | undefined;
  fault: string | undefined;
}

function useEntry(initial: string, parse: (text: string) => Parsed): Entry {
  const [text, set] = useState(initial);
  const parsed = parse(text);
  return parsed.ok
    ? { text, set, value: parsed.value, fault: undefined }
    : { text, set, value: undefined, fault: parsed.reason };
}

export function useSpeedEntry(initial: string): Entry {
  return useEntry(initial, parseSpeed);
}

/** A length in output frames; greater than 0. */
export function useLengthEntry(initial: string, rate: Rate, unit: TimeUnit): Entry {
  return useEntry(initial, (text) => {
    const parsed = parseTime(text, rate, unit);
    return parsed.ok && parsed.value <= 0 ? { ok: false, reason: 'must be more than 0' } : parsed;
  });
}

/** A moment in output frames, 0 … `length`. */
export function useMomentEntry(initial: string, rate: Rate, unit: TimeUnit, length: number): Entry {
  return useEntry(initial, (text) => {
    const parsed = parseTime(text, rate, unit);
    if (parsed.ok && (parsed.value < 0 || parsed.value > length + 1e-6)) {
      return { ok: false, reason: `lies outside the clip, which lasts ${Math.round(length * 100) / 100} frames` };
    }
    return parsed;
  });
}
