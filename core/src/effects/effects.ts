import type { Effect, Smooth, Steady, Stretch, Trail } from '@hastig/contract';
import { holdsAt, holdsAtSpeed } from '../exposure';
import type { ClipMoment } from '../values';

/** Whether effects do nothing, so that they need not be kept. */
export const doNothing = (effects: readonly Effect[] | undefined): boolean => !effects || effects.length === 0;

const EPSILON = 1e-6;

function moving(effect: Effect, by: Stretch['by'], moved: (at: number) => number): Effect[] {
  const { over } = effect;
  if (over?.by !== by) return [effect];
  const [a, b] = [moved(over.from), moved(over.to)];
  const [start, end] = [Math.min(a, b), Math.max(a, b)];
  const [from, to] = [Math.max(0, start), Math.max(0, end)];
  // What is gone has nothing left to hold for.
  if (!(to - from > EPSILON)) return [];
  const next = { by, from, to };
  if (effect.kind !== 'flash') return [{ ...effect, over: next } as Effect];
  // The peak goes along.
  const times = (end - start) / (over.to - over.from);
  return [{ ...effect, over: next, peak: Math.max(0, effect.peak * times - (from - start)) }];
}

/** Effects whose stretches go along with an edit of the clip's timing. */
export const movedEffects = (effects: readonly Effect[], moved: (output: number) => number): Effect[] =>
  effects.flatMap((effect) => moving(effect, 'output', moved));

/** Effects of a clip whose content is counted in positions of which there are `times` as many. */
export const scaledEffects = (effects: readonly Effect[], times: number): Effect[] =>
  effects.flatMap((effect) => moving(effect, 'source', (at) => at * times));

/** Those that are switched on. */
export const effectsOn = (effects: readonly Effect[] | undefined): readonly Effect[] =>
  effects?.filter(({ off }) => !off) ?? [];

/** Whether an effect holds at a moment, at a speed (a factor of real time; which way does not matter). */
export const holdsFor = (
  { over, only }: { over?: Stretch | undefined; only?: Trail['only'] },
  moment: ClipMoment,
  speed: number,
): boolean => holdsAt({ ...(over && { over }) }, moment) && holdsAtSpeed(only, speed);

/** Whether an effect moves frames of a source before anything is made of them. */
export const isSteadying = (effect: Effect): effect is Steady | Smooth =>
  effect.kind === 'steady' || effect.kind === 'smooth';
