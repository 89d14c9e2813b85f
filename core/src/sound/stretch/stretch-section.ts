import { samplePosition, speedOf, type SoundBlock, type SoundRun, type SoundSupply } from '../run';
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
  stretcher.reset();
  let backwards = false;
  for (let k = low - BEFORE; k < high; k++) {
    const at = warp.inverse((k * interval + delay) / sampleRate);
    const { position, speed } = course(at);
    if (speed !== 0) backwards = speed < 0;
    const pitch = pitchAt(at);
    if (voice.formantsKept) stretcher.moveFormants(-12 * Math.log2(pitch));
    const read = await contentAt(supply, position, backwards, ahead, reads);
    const given = stretcher.block(read, Math.abs(speed) / pitch);
    if (k >= low) given.forEach((samples, channel) => out[channel]!.set(samples, (k - low) * interval));
    if (k % 8 === 0) await breathe();
  }
  return { warp, block: { start: low * interval, channels: out } };
}

// What is heard around a position, in the order in which it is heard.
async function contentAt(
  supply: SoundSupply,
  position: number,
  backwards: boolean,
  ahead: number,
  reads: number,
): Promise<readonly Float32Array[]> {
  if (!backwards) {
    const end = Math.round(position + ahead);
    return (await supply.block(end - reads, end)).channels;
  }
  const start = Math.round(position - ahead) + 1;
  const { channels } = await supply.block(start, start + reads);
  return channels.map((samples) => samples.toReversed());
}
