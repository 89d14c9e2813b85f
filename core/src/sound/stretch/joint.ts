/** Seconds to either side of a joint in which two sections take turns. */
export const HALF_JOINT = 0.015;
/** Seconds by which a section may be read later or earlier at a joint, so that its waves go on where the other's end. */
const FURTHEST = 0.0023;
/** What being out of step costs beside waves that fit. */
const IN_STEP = 0.02;
/** The least likeness two sounds are taken to have: what cancels out is not made up for without end. */
const LEAST_ALIKE = -0.6;

/** How two sections meet. */
export interface Joint {
  /** Samples by which the later is read later (or the earlier earlier). */
  shift: number;
  /** How alike they then are: 1, the same; 0, nothing in common; −1, opposite. */
  alike: number;
}

const { sqrt, abs, round, max, cos, PI } = Math;

/**
 * How a sound goes on best in another one: the shift at which their waves are most alike.
 *
 * @param before samples around the joint, one array a channel
 * @param after the same of what goes on, with as many more to either side as `reach` says
 */
export function jointOf(before: readonly Float32Array[], after: readonly Float32Array[], reach: number): Joint {
  let best: Joint = { shift: 0, alike: 0 };
  let most = -Infinity;
  for (let shift = -reach; shift <= reach; shift++) {
    const alike = likeness(before, after, reach + shift);
    const score = alike - (IN_STEP * abs(shift)) / max(1, reach);
    if (score > most) [most, best] = [score, { shift, alike }];
  }
  return best;
}

function likeness(before: readonly Float32Array[], after: readonly Float32Array[], offset: number): number {
  let [both, one, other] = [0, 0, 0];
  before.forEach((samples, channel) => {
    const next = after[channel]!;
    for (let n = 0; n < samples.length; n++) {
      const [a, b] = [samples[n]!, next[offset + n]!];
      both += a * b;
      one += a * a;
      other += b * b;
    }
  });
  return one > 0 && other > 0 ? both / sqrt(one * other) : 0;
}

/** Samples by which a section of so many seconds may be shifted at a joint: its pitch changes by less than a cent. */
export const reachOf = (seconds: number, sampleRate: number): number =>
  max(0, round(Math.min(FURTHEST, seconds / 1740) * sampleRate));

/** How much of the earlier and of the later is heard at a share of a joint: together as loud as each. */
export function shares({ alike }: Joint, share: number): [before: number, after: number] {
  const after = 0.5 - 0.5 * cos(PI * share);
  const before = 1 - after;
  const loud = sqrt(before * before + after * after + 2 * before * after * max(LEAST_ALIKE, alike));
  return [before / loud, after / loud];
}
