import type { SoundFocus } from '@hastig/contract';
import { samplePosition, speedOf, type SoundBlock, type SoundRun, type SoundSupply } from '../run';
import { Attacks, turnLength, type Bounds } from './attacks';
import { followLoudness, LoudnessListener, REACH, stepOf } from './loudness-course';
import type { Section } from './sections';
import type { Stretcher } from './stretcher';
import { strokesOf, turned, type Passing, type Turn } from './strokes';
import { Warp } from './warp';

/** A section that was stretched: samples in warped time, which its `warp` leads to. */
export interface Stretched {
  warp: Warp;
  /** What rings. */
  block: SoundBlock;
  /** What is laid over it, as it is in the source: attacks, in the order in which they are heard. */
  attacks: readonly SoundBlock[];
}

/** Seconds past its edges that a section is made for, so that it can take turns with its neighbours. */
const PAST = 0.02;
/** Warped samples more than that, for the kernel that reads them. */
export const KERNEL = 300;
/** Blocks that are made before what is kept: they lie over the first of it. */
const BEFORE = 5;
/** Blocks between two attacks at which all is made anew. */
const APART = 1;
/** Seconds between two looks for attacks. */
const STEP = 0.004;
/** Seconds of the source around what is heard that its loudness is followed in, and how much of it at most. */
const AROUND = 0.02;
const LONGEST = 20;
/** Seconds from a run's edges at which it is looked at, for what lies past them. */
const INSIDE = 1e-6;

/** Where a run would read its source, and how fast, if it went straight on past its edges. Seconds from its beginning. */
function courseOf(run: SoundRun, supply: SoundSupply): (at: number) => { position: number; speed: number } {
  return (at) => {
    const inside = Math.min(Math.max(at, INSIDE), run.to - run.from - INSIDE);
    const speed = speedOf(run, supply, run.from + inside);
    const position = samplePosition(run, supply, run.from + inside);
    return { position: position + (at - inside) * speed * supply.sampleRate, speed };
  };
}

/**
 * Stretches one section of a run. Takes as long as some tenths of a second of work; `breathe` is waited for now and then.
 *
 * @param stretcher for the source's channels, its sample rate, and the run's focus; it is used from a new beginning
 */
export async function stretchSection(
  run: SoundRun,
  supply: SoundSupply,
  stretcher: Stretcher,
  section: Section,
  breathe: () => Promise<void>,
): Promise<Stretched> {
  const { sampleRate, pictureRate } = supply;
  const { interval, reads, ahead, delay, channels } = stretcher;
  const voice = run.voice!;
  const length = run.to - run.from;
  const pitchAt = (at: number): number =>
    voice.pitchAt(run.from + Math.min(Math.max(at, INSIDE), length - INSIDE), pictureRate);
  const warp = new Warp(pitchAt, section.from, section.to);
  const course = courseOf(run, supply);
  const low = Math.floor((warp.at(section.from - PAST) * sampleRate - KERNEL) / interval);
  const high = Math.ceil((warp.at(section.to + PAST) * sampleRate + KERNEL) / interval);
  const out = Array.from({ length: channels }, () => new Float32Array((high - low) * interval));
  const attacks = new Attacks(supply);
  const passing = await attacksOn(course, section, attacks, sampleRate);
  const placeOf = ({ at }: Passing): number => Math.round(warp.at(at) * sampleRate);
  let backwards = false;
  for (const { bounds, from, to } of strokesOf(passing, APART * stretcher.block, placeOf, turnLength(sampleRate))) {
    stretcher.reset();
    const first = Math.max(low, Math.floor(from.start / interval));
    const last = Math.min(high, Math.ceil(to.end / interval));
    for (let k = first - BEFORE; k < last; k++) {
      const at = warp.inverse((k * interval + delay) / sampleRate);
      const { position, speed } = course(at);
      if (speed !== 0) backwards = speed < 0;
      const pitch = pitchAt(at);
      if (voice.formantsKept) stretcher.moveFormants(-12 * Math.log2(pitch));
      const read = await contentAt(attacks, position, backwards, ahead, reads, bounds);
      const given = stretcher.next(read, Math.abs(speed) / pitch);
      if (k >= first) addStroke(out, given, (k - low) * interval, k * interval, from, to);
      if (k % 8 === 0) await breathe();
    }
  }
  const sampleOf = (step: number): number => {
    const middle = low * interval + (step + 0.5) * stepOf(sampleRate);
    return course(warp.inverse(middle / sampleRate)).position;
  };
  await keepLoudness(out, attacks, sampleRate, voice.focus, sampleOf, breathe);
  const laid = passing.map(async (passed) => {
    const { start, channels } = await attacks.alone(passed.sample);
    const place = placeOf(passed);
    if (!passed.backwards) return { start: place + start - passed.sample, channels };
    const length = channels[0]?.length ?? 0;
    return {
      start: place + passed.sample - start - length + 1,
      channels: channels.map((samples) => samples.toReversed()),
    };
  });
  return { warp, block: { start: low * interval, channels: out }, attacks: await Promise.all(laid) };
}

/** Gives what was made the course of loudness of what it is made of, where that is not so long that it is heard in passing only. */
async function keepLoudness(
  out: readonly Float32Array[],
  attacks: Attacks,
  sampleRate: number,
  focus: SoundFocus,
  sampleOf: (step: number) => number,
  breathe: () => Promise<void>,
): Promise<void> {
  const step = stepOf(sampleRate);
  const steps = Math.ceil((out[0]?.length ?? 0) / step);
  const samples = Array.from({ length: steps + 1 }, (_, at) => sampleOf(at));
  const margin = AROUND * sampleRate;
  const from = Math.floor(samples.reduce((least, one) => Math.min(least, one), Infinity) - margin);
  const to = Math.ceil(samples.reduce((most, one) => Math.max(most, one), -Infinity) + margin);
  if (!(to - from <= LONGEST * sampleRate)) return;
  // A voice's periods are shorter where sound runs fast, and are not to be followed in either.
  const speed = (to - from - 2 * margin) / (steps * step);
  const reach = REACH[focus];
  // A second at a time: a source of many channels and samples a second is not held whole.
  const listener = new LoudnessListener(out.length, sampleRate, to - from);
  for (let at = from; at < to; at += sampleRate) {
    listener.push(await attacks.ringing(at, Math.min(to, at + sampleRate)));
    await breathe();
  }
  const source = listener.course(focus === 'speech' ? Math.round(reach * Math.max(1, speed)) : reach);
  followLoudness(out, source, sampleRate, reach, (at) => (samples[at]! - from) / step - 0.5);
}

function addStroke(
  out: readonly Float32Array[],
  given: readonly Float32Array[],
  place: number,
  at: number,
  from: Turn,
  to: Turn,
): void {
  given.forEach((samples, channel) => {
    for (let n = 0; n < samples.length; n++) {
      const share = turned(from, at + n) * (1 - turned(to, at + n));
      out[channel]![place + n]! += share * samples[n]!;
    }
  });
}

/** The attacks that pass in a section. */
async function attacksOn(
  course: (at: number) => { position: number; speed: number },
  section: Section,
  attacks: Attacks,
  sampleRate: number,
): Promise<Passing[]> {
  const [from, to] = [section.from - PAST, section.to + PAST];
  const steps = Math.ceil((to - from) / STEP);
  const found: Passing[] = [];
  for (let step = 0; step < steps; step++) {
    let [low, high] = [from + step * STEP, from + (step + 1) * STEP];
    const [a, b] = [course(low).position, course(high).position];
    const backwards = b < a;
    // Half open in the direction in which it passes, so that each is found in one step.
    const passed = backwards ? await attacks.between(b + 1, a + 1) : await attacks.between(a, b);
    for (const sample of passed) {
      [low, high] = [from + step * STEP, from + (step + 1) * STEP];
      while (high - low > 0.1 / sampleRate) {
        const half = (low + high) / 2;
        if (course(half).position < sample !== backwards) low = half;
        else high = half;
      }
      found.push({ sample, at: (low + high) / 2, backwards, drowns: await attacks.drowns(sample) });
    }
  }
  return found;
}

// What rings around a position, in the order in which it is heard.
async function contentAt(
  attacks: Attacks,
  position: number,
  backwards: boolean,
  ahead: number,
  reads: number,
  bounds: Bounds,
): Promise<readonly Float32Array[]> {
  if (!backwards) {
    const end = Math.round(position + ahead);
    return attacks.ringing(end - reads, end, bounds);
  }
  const start = Math.round(position - ahead) + 1;
  const channels = await attacks.ringing(start, start + reads, bounds);
  return channels.map((samples) => samples.toReversed());
}
