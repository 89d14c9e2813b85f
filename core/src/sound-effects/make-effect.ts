import { EFFECT_LEAD, type Effect, type EffectKind } from './catalogue';
import { noiseOf, SweptFilter } from './noise';
import type { SpeedCourse } from './speed-peaks';

// Looked up once: the loops below run for every sample.
const { abs, cos, exp, log2, max, min, PI, sin } = Math;

/** Left and right, −1 to 1. */
type StereoSound = [left: Float32Array, right: Float32Array];

/** The peak that every effect is brought to: 3 dB below full scale, so that two of them at once seldom clip. */
const PEAK = 0.7;
/** Times a knock's frequency at which it rings too, how loud, and how much faster that dies away. */
const PARTIALS = [
  [1, 1, 1],
  [2.76, 0.4, 1.6],
  [5.4, 0.2, 2.4],
] as const;

/** How an effect goes at a moment: how loud, 0 to 1, at how many hertz, and where from left to right. */
interface Course {
  loud: number;
  hertz: number;
  pan: number;
}

const between = (a: number, b: number, share: number): number => a * (b / a) ** share;

/** The course of an effect of the library at so many seconds. */
function courseOf({ kind, seconds, loudest, pitch, pan }: Effect, time: number): Course {
  const [begin, top, end] = pitch;
  const rising = time < loudest;
  const share = rising
    ? max(0, (time - EFFECT_LEAD) / (loudest - EFFECT_LEAD))
    : min(1, (time - loudest) / (seconds - loudest));
  const along = max(0, min(1, (time - EFFECT_LEAD) / (seconds - EFFECT_LEAD)));
  return {
    loud: time < EFFECT_LEAD ? 0 : rising ? share ** RISE[kind] : falling(kind, share),
    hertz: rising ? between(begin, top, share) : between(top, end, share),
    pan: pan[0] + (pan[1] - pan[0]) * along,
  };
}

/** How late loudness comes while it rises: 1 is even. */
const RISE: Record<EffectKind, number> = { whoosh: 2.2, impact: 1, riser: 1.6, tick: 1, rumble: 1.3 };
/** Times it falls to 1/e until the end of what has been struck. */
const FALL: Partial<Record<EffectKind, number>> = { impact: 6, tick: 7 };

function falling(kind: EffectKind, share: number): number {
  const fall = FALL[kind];
  // Struck things ring out; air and rolling die down evenly. All end in silence.
  return fall ? exp(-fall * share) * (1 - share) : (1 - share) ** 2;
}

type Tone = (time: number, course: Course) => [left: number, right: number];

/** Rushing air: noise of its own for each side, through a filter that moves. */
function air(rate: number, seed: number): Tone {
  const sides = [seed, seed + 1, seed + 2].map((one) => ({ noise: noiseOf(one), filter: new SweptFilter(rate, 0.9) }));
  return (_, { hertz }) => {
    const [middle, left, right] = sides.map(({ noise, filter }) => filter.next(noise(), hertz).band) as [
      number,
      number,
      number,
    ];
    return [0.8 * middle + 0.4 * left, 0.8 * middle + 0.4 * right];
  };
}

/** Something low that rolls: noise under a frequency, and slow swells of it. */
function rolling(rate: number, seed: number): Tone {
  const tone = air(rate, seed);
  const swell = new SweptFilter(rate, 1.4);
  const noise = noiseOf(seed + 7);
  return (time, course) => {
    const [left, right] = tone(time, course);
    const lift = 1 + 6 * swell.next(noise(), 6).low;
    return [left * lift, right * lift];
  };
}

/** What is struck: partials that ring, and the crack of the hit. */
function struck(rate: number, seed: number, { kind, loudest, seconds }: Effect): Tone {
  const crack = air(rate, seed);
  const phases = PARTIALS.map(() => 0);
  return (time, course) => {
    const since = max(0, time - loudest) / (seconds - loudest);
    let ring = 0;
    PARTIALS.forEach(([ratio, share, faster], i) => {
      phases[i]! += (2 * PI * course.hertz * ratio) / rate;
      ring += share * sin(phases[i]!) * exp(-5 * (faster - 1) * since);
    });
    const [left, right] = crack(time, { ...course, hertz: kind === 'tick' ? 4 * course.hertz : 1800 });
    const much = (kind === 'tick' ? 0.25 : 1.4) * exp(-60 * max(0, time - loudest));
    return [ring + much * left, ring + much * right];
  };
}

/** A tone that climbs, two voices a little apart, and air with it. */
function climbing(rate: number, seed: number): Tone {
  const wind = air(rate, seed);
  let [a, b] = [0, 0];
  return (time, course) => {
    a += (2 * PI * course.hertz) / rate;
    b += (2 * PI * course.hertz * 1.007) / rate;
    const [left, right] = wind(time, { ...course, hertz: 3 * course.hertz });
    return [0.35 * (sin(a) + 0.4 * sin(2 * b)) + left, 0.35 * (sin(b) + 0.4 * sin(2 * a)) + right];
  };
}

function toneOf(effect: Effect, rate: number): Tone {
  const seed = [...effect.id].reduce((sum, letter) => (sum * 31 + letter.charCodeAt(0)) | 0, 7);
  switch (effect.kind) {
    case 'whoosh':
      return air(rate, seed);
    case 'rumble':
      return rolling(rate, seed);
    case 'riser':
      return climbing(rate, seed);
    case 'impact':
    case 'tick':
      return struck(rate, seed, effect);
  }
}

/** What a tone gives along a course, brought to the usual peak. @param rate samples a second */
function played(seconds: number, rate: number, tone: Tone, courseAt: (time: number) => Course): StereoSound {
  const count = Math.round(seconds * rate);
  const [left, right] = [new Float32Array(count), new Float32Array(count)];
  let peak = 0;
  for (let i = 0; i < count; i++) {
    const time = i / rate;
    const course = courseAt(time);
    const [l, r] = tone(time, course);
    const angle = ((course.pan + 1) * PI) / 4;
    left[i] = l * course.loud * cos(angle);
    right[i] = r * course.loud * sin(angle);
    peak = max(peak, abs(left[i]!), abs(right[i]!));
  }
  if (peak > 0) for (const side of [left, right]) for (let i = 0; i < count; i++) side[i]! *= PEAK / peak;
  return [left, right];
}

/** An effect of the library as sound. @param rate samples a second */
export function makeEffect(effect: Effect, rate: number): StereoSound {
  return played(effect.seconds, rate, toneOf(effect, rate), (time) => courseOf(effect, time));
}

/** How loud the slowest moment of a whoosh made from a curve is beside the fastest: nothing, where the speed is even. */
const LOUDER = 1.6;
/** Hertz of air at real time, and the most there is of it. */
const AIR_AT_1 = 420;
const MOST_AIR = 7000;

/**
 * A whoosh made for a clip: the faster that is, the louder and the higher it sounds. It begins with the silence every effect has, then
 * goes as the clip does.
 *
 * @param course of at least one frame
 * @param rate samples a second
 */
export function whooshFrom(
  { speeds, perSecond }: Pick<SpeedCourse, 'speeds' | 'perSecond'>,
  rate: number,
): StereoSound {
  const fast = speeds.map(abs);
  const [slowest, fastest] = fast.reduce(([low, high], speed) => [min(low, speed), max(high, speed)], [Infinity, 0]);
  const range = max(1e-9, fastest - slowest);
  const speedAt = (time: number): number => {
    const at = max(0, min(fast.length - 1, (time - EFFECT_LEAD) * perSecond));
    const low = Math.floor(at);
    return fast[low]! + (at - low) * ((fast[low + 1] ?? fast[low]!) - fast[low]!);
  };
  const seconds = EFFECT_LEAD + fast.length / perSecond;
  const courseAt = (time: number): Course => {
    const speed = speedAt(time);
    const edge = max(0, min(1, (time - EFFECT_LEAD) / 0.02, (seconds - time) / 0.02));
    return {
      loud: edge * ((speed - slowest) / range) ** LOUDER,
      hertz: min(MOST_AIR, AIR_AT_1 * 2 ** (0.8 * log2(max(0.05, speed)))),
      pan: 0,
    };
  };
  return played(seconds, rate, air(rate, 4711), courseAt);
}
