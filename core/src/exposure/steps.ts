import type { ExposureStep } from '@hastig/contract';
import type { ClipMoment } from '../values';
import { instant, wholeSource, type Exposure } from './exposure';

/** What is said of how pictures are made; what is not said is decided further inside, or is an instant that is held. */
export type ExposureWish = Partial<Exposure>;

/** Whether steps say nothing, so that they need not be kept. */
export const saysNothing = (steps: readonly ExposureStep[] | undefined): boolean => !steps || steps.length === 0;

/** Whether a step has something to say at a moment, at some speed. */
export function holdsAt({ off, over }: Pick<ExposureStep, 'off' | 'over'>, moment: ClipMoment): boolean {
  // A rounding error short of a stretch's beginning is at it.
  return !off && (!over || (moment[over.by] + EPSILON >= over.from && moment[over.by] + EPSILON < over.to));
}

const EPSILON = 1e-6;

/** Whether what is told for some speeds alone holds at one: a factor of real time; which way does not matter. */
export function holdsAtSpeed(only: ExposureStep['only'], speed: number): boolean {
  const fast = Math.abs(speed);
  return !only || (only.than === 'faster' ? fast > only.speed + EPSILON : fast < only.speed - EPSILON);
}

/** The part of a shutter that a speed opens. */
function grown({ from, to }: NonNullable<ExposureStep['grows']>, speed: number): number {
  if (to <= from) return speed >= to ? 1 : 0;
  return Math.min(1, Math.max(0, (speed - from) / (to - from)));
}

/**
 * What steps that hold at a moment say together: of each setting the last one's.
 *
 * @param speed as a factor of real time; which way does not matter
 */
export function wishOf(steps: readonly ExposureStep[], speed: number): ExposureWish {
  const fast = Math.abs(speed);
  const wish: ExposureWish = {};
  for (const { only, grows, slow, shutter, samples, every, most, keys, evenLight } of steps) {
    if (!holdsAtSpeed(only, fast)) continue;
    if (slow !== undefined) wish.slow = slow;
    if (shutter !== undefined) wish.shutter = grows ? shutter * grown(grows, fast) : shutter;
    if (samples !== undefined) wish.samples = samples;
    if (every !== undefined) wish.every = every;
    if (most !== undefined) wish.most = most;
    if (keys !== undefined) wish.keys = keys;
    if (evenLight !== undefined) wish.evenLight = evenLight;
  }
  return wish;
}

/** The exposure that comes of wishes, the outermost last. */
export function exposureOf(...wishes: readonly (ExposureWish | undefined)[]): Exposure {
  const made = Object.assign({}, instant, ...wishes) as Exposure;
  const whole = wholeSource(made);
  // Between frames of which others are left out, what moved is not looked for.
  if (!whole && made.slow === 'compensated') made.slow = 'blended';
  return made.slow === 'held' && made.shutter <= 0 && whole && !made.evenLight ? instant : made;
}

const moving = (step: ExposureStep, by: 'source' | 'output', moved: (at: number) => number): ExposureStep[] => {
  const { over } = step;
  if (over?.by !== by) return [step];
  const [a, b] = [moved(over.from), moved(over.to)];
  const [from, to] = [Math.max(0, Math.min(a, b)), Math.max(0, a, b)];
  // What is gone has nothing left to hold for.
  return to - from > EPSILON ? [{ ...step, over: { by, from, to } }] : [];
};

/** Steps whose stretches go along with an edit of the clip's timing. */
export const movedSteps = (steps: readonly ExposureStep[], moved: (output: number) => number): ExposureStep[] =>
  steps.flatMap((step) => moving(step, 'output', moved));

/** Steps of a clip whose content is counted in positions of which there are `times` as many. */
export const scaledSteps = (steps: readonly ExposureStep[], times: number): ExposureStep[] =>
  steps.flatMap((step) => moving(scaled(step, times), 'source', (at) => at * times));

// What is left out between two frames is counted in positions too; one that is left out cannot be less than one.
function scaled(step: ExposureStep, times: number): ExposureStep {
  const { every } = step;
  if (!every || every.frames === 1) return step;
  const frames = Math.max(1, Math.round(every.frames * times));
  return { ...step, every: { frames, ...(every.from !== undefined && { from: Math.round(every.from * times) }) } };
}

/** Whether a step holds everywhere, at any speed. */
const holdsEverywhere = ({ off, over, only, grows }: ExposureStep): boolean => !off && !over && !only && !grows;

/** The step that says something of all pictures, before what is said of parts. */
export const baseStep = (steps: readonly ExposureStep[]): ExposureStep | undefined => steps.find(holdsEverywhere);

/**
 * Steps that say something of all pictures, in the step that does or a new one before all others.
 *
 * @param newId of the new step
 */
export function withBase(
  steps: readonly ExposureStep[],
  change: Pick<ExposureStep, 'slow' | 'shutter'>,
  newId: string,
): ExposureStep[] {
  const base = baseStep(steps);
  return base
    ? steps.map((step) => (step === base ? { ...step, ...change } : step))
    : [{ id: newId, ...change }, ...steps];
}
