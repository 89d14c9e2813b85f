import type { Effect, RetimeMap } from '@hastig/contract';
import { compile, holdsFor, momentAt, speedAt } from '@hastig/core';

/** A stretch of a clip's output in which an effect is seen. */
export interface EffectRun {
  effect: Effect;
  from: number;
  to: number;
}

/** Moments that are looked at: enough for each to be less than a pixel of a phone. */
const LOOKS = 400;

/** Where effects are seen along a clip's output: what stays with its content is seen wherever that passes. */
export function effectRuns(map: RetimeMap, effects: readonly Effect[]): EffectRun[] {
  const { length } = compile(map);
  return effects.flatMap((effect) => {
    const only = effect.kind === 'trail' ? effect.only : undefined;
    const { over } = effect;
    // What is told in output frames is told exactly.
    if (!only && over?.by !== 'source')
      return [{ effect, from: over?.from ?? 0, to: Math.min(length, over?.to ?? length) }];
    const runs: EffectRun[] = [];
    let open = false;
    for (let look = 0; look < LOOKS; look++) {
      const [from, to] = [(look / LOOKS) * length, ((look + 1) / LOOKS) * length];
      const middle = (from + to) / 2;
      const holds = holdsFor({ over, only }, momentAt(map, middle), speedAt(map, middle));
      const last = runs.at(-1);
      if (holds && open && last) last.to = to;
      else if (holds) runs.push({ effect, from, to });
      open = holds;
    }
    return runs;
  });
}
