import type { SoundPiece, SoundRun, SoundSupply } from '../run';
import { readTape, readVarispeed } from '../varispeed';
import { HALF_JOINT, jointOf, reachOf, shares, type Joint } from './joint';
import { CELL, cellsOf, sectionsOf, type Section } from './sections';
import { KERNEL, stretchSection, type Stretched } from './stretch-section';
import type { StretchBench } from './bench';

const { ceil, floor, max, min, round } = Math;

/** A section and its neighbours in the run, by their places. */
interface Place {
  cell: number;
  index: number;
}

/** Seconds. */
const lengthOf = ({ from, to }: Section): number => to - from;

/**
 * The sound of a run whose pitch does not just follow its speed. Sections are made when they are first asked for, always from the
 * same beginnings, so that any piece comes out the same in whatever order pieces are asked for.
 */
export class VoicedSound {
  private readonly plans = new Map<number, Section[]>();
  private readonly made = new Map<Section, Promise<Stretched>>();
  private readonly ready = new Set<Section>();
  private readonly joints = new Map<Section, Promise<Joint | null>>();

  /** @param run by which all is made; another of the same key may be read later */
  constructor(
    private readonly run: SoundRun,
    readonly supply: SoundSupply,
    private readonly bench: StretchBench,
  ) {}

  /**
   * Samples of a piece of a run of the same key; one array a channel of the source.
   *
   * @param outputRate output samples per second
   */
  async read({ run, first, count }: SoundPiece, outputRate: number): Promise<Float32Array[]> {
    const out = Array.from({ length: this.supply.channels }, () => new Float32Array(count));
    const at = (n: number): number => (first + n) / outputRate - run.from;
    for (const place of this.placesBetween(at(0), at(count - 1))) {
      const section = this.section(place)!;
      const [start, end] = [await this.joint(place), await this.joint(this.next(place))];
      const [head, tail] = [this.half(this.previous(place), place), this.half(place, this.next(place))];
      const from = max(0, ceil((section.from - head + run.from) * outputRate - 1e-6) - first);
      const to = min(count, ceil((section.to + tail + run.from) * outputRate - 1e-6) - first);
      if (to <= from) continue;
      const samples = await this.readSection(place, { run, first: first + from, count: to - from }, outputRate);
      const [begun, ends] = [section.from + head, section.to - tail];
      const shareAt = (seconds: number): number => {
        let share = 1;
        if (start && seconds < begun) share *= shares(start, (seconds - section.from + head) / (2 * head))[1];
        if (end && seconds >= ends) share *= shares(end, (seconds - ends) / (2 * tail))[0];
        return share;
      };
      // Between its joints, give or take a sample, all of it is heard.
      const whole = [begun, ends].map((moment) => ceil((moment + run.from) * outputRate) - first) as [number, number];
      out.forEach((channel, index) => {
        const own = samples[index]!;
        for (let n = from; n < to; n++) {
          const inside = n > whole[0] && n < whole[1] - 1;
          channel[n]! += inside ? own[n - from]! : shareAt(at(n)) * own[n - from]!;
        }
      });
    }
    return out;
  }

  /** Whether a piece can be read without making anything first. */
  isReady({ run, first, count }: SoundPiece, outputRate: number): boolean {
    const at = (n: number): number => (first + n) / outputRate - run.from;
    return this.placesBetween(at(0), at(count - 1)).every((place) =>
      [this.previous(place), place, this.next(place)].every((one) => {
        const section = one && this.section(one);
        return !section || section.asItIs || this.ready.has(section);
      }),
    );
  }

  private plan(cell: number): Section[] {
    let plan = this.plans.get(cell);
    if (!plan) this.plans.set(cell, (plan = sectionsOf(this.run, this.supply, cell)));
    return plan;
  }

  private section({ cell, index }: Place): Section | undefined {
    return this.plan(cell)[index];
  }

  private next(place: Place | undefined): Place | undefined {
    if (!place) return undefined;
    const { cell, index } = place;
    if (index + 1 < this.plan(cell).length) return { cell, index: index + 1 };
    return cell + 1 < cellsOf(this.run) ? { cell: cell + 1, index: 0 } : undefined;
  }

  private previous({ cell, index }: Place): Place | undefined {
    if (index > 0) return { cell, index: index - 1 };
    return cell > 0 ? { cell: cell - 1, index: this.plan(cell - 1).length - 1 } : undefined;
  }

  // All sections that are heard between two moments, joints included.
  private placesBetween(from: number, to: number): Place[] {
    const last = cellsOf(this.run) - 1;
    const cellAt = (at: number): number => min(last, max(0, floor(at / CELL)));
    const places: Place[] = [];
    for (let cell = cellAt(from - HALF_JOINT); cell <= cellAt(to + HALF_JOINT); cell++) {
      this.plan(cell).forEach((section, index) => {
        if (section.to + HALF_JOINT > from && section.from - HALF_JOINT <= to) places.push({ cell, index });
      });
    }
    return places;
  }

  /** Seconds to either side of the joint of two sections; 0 where there is none. */
  private half(before: Place | undefined, after: Place | undefined): number {
    const [one, other] = [before && this.section(before), after && this.section(after)];
    if (!one || !other || (one.asItIs && other.asItIs)) return 0;
    return min(HALF_JOINT, lengthOf(one) / 2, lengthOf(other) / 2);
  }

  /** How a section goes on from the one before it; null where that needs no joint. */
  private joint(place: Place | undefined): Promise<Joint | null> {
    const section = place && this.section(place);
    if (!section) return Promise.resolve(null);
    let joint = this.joints.get(section);
    if (!joint) {
      joint = this.makeJoint(this.previous(place), place);
      this.joints.set(section, joint);
      joint.catch(() => this.joints.delete(section));
    }
    return joint;
  }

  private async makeJoint(before: Place | undefined, after: Place): Promise<Joint | null> {
    const half = this.half(before, after);
    if (!before || half === 0) return null;
    const { sampleRate } = this.supply;
    const [one, other] = [this.section(before)!, this.section(after)!];
    const reach = reachOf(lengthOf(other.asItIs ? one : other), sampleRate);
    const first = round((other.from - half) * sampleRate);
    const count = max(1, round(2 * half * sampleRate));
    const run = beginningAt(this.run, 0);
    // What is shifted is read with more to either side: the later, unless only the earlier can be.
    const read = (place: Place, more: number): Promise<Float32Array[]> =>
      this.readUnshifted(place, { run, first: first - more, count: count + 2 * more }, sampleRate);
    if (!other.asItIs) return jointOf(await read(before, 0), await read(after, reach), reach);
    return jointOf(await read(after, 0), await read(before, reach), reach);
  }

  private stretched(section: Section): Promise<Stretched> {
    let made = this.made.get(section);
    if (!made) {
      made = this.bench.with(this.supply, this.run, (stretcher) =>
        stretchSection(this.run, this.supply, stretcher, section, this.bench.breathe),
      );
      this.made.set(section, made);
      made.then(
        () => this.ready.add(section),
        () => this.made.delete(section),
      );
    }
    this.bench.keep(section, () => {
      this.made.delete(section);
      this.ready.delete(section);
    });
    return made;
  }

  private async readSection(place: Place, piece: SoundPiece, outputRate: number): Promise<Float32Array[]> {
    const section = this.section(place)!;
    if (section.asItIs) return this.readUnshifted(place, piece, outputRate);
    const next = this.next(place);
    const start = (await this.joint(place))?.shift ?? 0;
    // A section that ends in one that is read as it is, is brought in step with that by its end.
    const end = next && this.section(next)!.asItIs ? ((await this.joint(next))?.shift ?? 0) : 0;
    const { sampleRate } = this.supply;
    return this.readUnshifted(place, piece, outputRate, (at) => {
      const share = min(1, max(0, (at - section.from) / lengthOf(section)));
      return (start + share * (end - start)) / sampleRate;
    });
  }

  private async readUnshifted(
    place: Place,
    { run, first, count }: SoundPiece,
    outputRate: number,
    shiftAt: (at: number) => number = () => 0,
  ): Promise<Float32Array[]> {
    const section = this.section(place)!;
    const { supply } = this;
    const out = Array.from({ length: supply.channels }, () => new Float32Array(count));
    if (section.asItIs) {
      await readTape(supply, { run, first, count }, outputRate, out, first);
      return out;
    }
    const { warp, block, attacks } = await this.stretched(section);
    // What was stretched is read as a source of its own: its “frames” are warped seconds.
    const source = { sampleRate: supply.sampleRate, pictureStart: 0, pictureRate: 1 };
    const warped = (shift: (at: number) => number): SoundRun => ({
      ...run,
      frameAt: (seconds) => warp.at(seconds - run.from + shift(seconds - run.from)),
      rateAt: (seconds) => warp.rateAt(seconds - run.from),
    });
    readVarispeed({ run: warped(shiftAt), first, count }, source, outputRate, block, out);
    // Attacks are not shifted along: they stay where they are seen.
    const attackRun = warped(() => 0);
    for (const attack of attacks) {
      const { start, channels } = attack;
      const at = (sample: number): number => (run.from + warp.inverse(sample / supply.sampleRate)) * outputRate - first;
      const from = max(0, floor(at(start - KERNEL)));
      const to = min(count, ceil(at(start + (channels[0]?.length ?? 0) + KERNEL)));
      const piece = { run: attackRun, first: first + from, count: to - from };
      if (to > from) readVarispeed(piece, source, outputRate, attack, out, from);
    }
    return out;
  }
}

// The same run, heard from another moment on.
function beginningAt(run: SoundRun, from: number): SoundRun {
  const before = (seconds: number): number => seconds - from + run.from;
  return {
    ...run,
    from,
    to: from + run.to - run.from,
    frameAt: (seconds) => run.frameAt(before(seconds)),
    rateAt: (seconds) => run.rateAt(before(seconds)),
  };
}
