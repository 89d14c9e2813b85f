import type { ExposureStep, RetimeMap } from '@hastig/contract';
import { compile, exposureOf, holdsAt, momentAt, speedAt, wishOf, type Exposure } from '@hastig/core';

/** A stretch of a clip's output whose pictures are made one way. */
interface ExposureRun {
  from: number;
  to: number;
  exposure: Exposure;
}

/** Moments that are looked at: enough for each to be less than a pixel of a phone. */
const LOOKS = 400;

const alike = (a: Exposure, b: Exposure): boolean =>
  a.slow === b.slow &&
  Math.abs(a.shutter - b.shutter) < 1 &&
  a.samples === b.samples &&
  a.most === b.most &&
  a.keys === b.keys &&
  a.evenLight === b.evenLight &&
  a.every?.frames === b.every?.frames;

/** What the film says of its clips, and how many of its frames lie before a clip's output. */
export interface FilmSteps {
  steps: readonly ExposureStep[];
  shift: number;
}

/** How a clip's pictures are made along its output, stretch by stretch: as it says itself, and over that the film. */
export function exposureRuns(map: RetimeMap, steps: readonly ExposureStep[], film?: FilmSteps): ExposureRun[] {
  const { length } = compile(map);
  const runs: ExposureRun[] = [];
  for (let look = 0; look < LOOKS; look++) {
    const [from, to] = [(look / LOOKS) * length, ((look + 1) / LOOKS) * length];
    const middle = (from + to) / 2;
    const moment = momentAt(map, middle);
    const holding = steps.filter((step) => holdsAt(step, moment));
    const speed = speedAt(map, middle);
    const at = middle + (film?.shift ?? 0);
    const filmed = film?.steps.filter((step) => holdsAt(step, { output: at, source: at })) ?? [];
    const exposure = exposureOf(wishOf(holding, speed), wishOf(filmed, speed));
    const last = runs.at(-1);
    if (last && alike(last.exposure, exposure)) last.to = to;
    else runs.push({ from, to, exposure });
  }
  return runs;
}
