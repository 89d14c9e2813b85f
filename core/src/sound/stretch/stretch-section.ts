import { samplePosition, speedOf, type SoundBlock, type SoundRun, type SoundSupply } from '../run';
import { Attacks } from './attacks';
import type { Section } from './sections';
import type { Stretcher } from './stretcher';
import { Warp } from './warp';

/** A section that was stretched: samples in warped time, which its `warp` leads to. */
export interface Stretched {
  warp: Warp;
  block: SoundBlock;
}

/** Seconds past its edges that a section is made for, so that it can take turns with its neighbours. */
const PAST = 0.02;
/** Warped samples more than that, for the kernel that reads them. */
const KERNEL = 300;
/** Blocks that are made before what is kept: they lie over the first of it. */
const BEFORE = 5;
/** Samples of the source for each one given above which attacks are laid apart, and seconds between two looks for them. */
const FAST = 1.25;
const STEP = 0.004;
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
  stretcher.reset();
  let backwards = false;
  for (let k = low - BEFORE; k < high; k++) {
    const at = warp.inverse((k * interval + delay) / sampleRate);
    const { position, speed } = course(at);
    if (speed !== 0) backwards = speed < 0;
    const pitch = pitchAt(at);
    if (voice.formantsKept) stretcher.moveFormants(-12 * Math.log2(pitch));
    const rate = Math.abs(speed) / pitch;
    const block = rate > FAST ? attacks.without.bind(attacks) : supply.block.bind(supply);
    const read = await contentAt(block, position, backwards, ahead, reads);
    const given = stretcher.block(read, rate);
    if (k >= low) given.forEach((samples, channel) => out[channel]!.set(samples, (k - low) * interval));
    if (k % 8 === 0) await breathe();
  }
  for (const attack of await attacksOn(course, pitchAt, section, attacks, sampleRate)) {
    const place = Math.round(warp.at(attack.at) * sampleRate) - low * interval;
    await attacks.add(attack.sample, out, place, attack.backwards);
  }
  return { warp, block: { start: low * interval, channels: out } };
}

interface Passing {
  /** Sample of the source at which it begins, and seconds from the run's beginning at which that is heard. */
  sample: number;
  at: number;
  backwards: boolean;
}

/** The attacks that pass in a section where it is fast. */
async function attacksOn(
  course: (at: number) => { position: number; speed: number },
  pitchAt: (at: number) => number,
  section: Section,
  attacks: Attacks,
  sampleRate: number,
): Promise<Passing[]> {
  const [from, to] = [section.from - PAST, section.to + PAST];
  const steps = Math.ceil((to - from) / STEP);
  const found: Passing[] = [];
  for (let step = 0; step < steps; step++) {
    let [low, high] = [from + step * STEP, from + (step + 1) * STEP];
    const middle = (low + high) / 2;
    if (Math.abs(course(middle).speed) / pitchAt(middle) <= FAST) continue;
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
      found.push({ sample, at: (low + high) / 2, backwards });
    }
  }
  return found;
}

// What is heard around a position, in the order in which it is heard.
async function contentAt(
  block: SoundSupply['block'],
  position: number,
  backwards: boolean,
  ahead: number,
  reads: number,
): Promise<readonly Float32Array[]> {
  if (!backwards) {
    const end = Math.round(position + ahead);
    return (await block(end - reads, end)).channels;
  }
  const start = Math.round(position - ahead) + 1;
  const { channels } = await block(start, start + reads);
  return channels.map((samples) => samples.toReversed());
}
