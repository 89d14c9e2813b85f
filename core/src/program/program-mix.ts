import type { TrackSound } from '@hastig/contract';
import {
  DUCK_BLOCK,
  duckedBy,
  duckReach,
  gainOf,
  levelOf,
  limited,
  limitReach,
  panGains,
  plainTrackSound,
  putLevels,
  readTape,
  soundPieces,
  type SoundPiece,
  type SoundRun,
  type SoundSupply,
  type Voices,
} from '../sound';
import type { Program } from './program';
import { soundRuns } from './sound-runs';

/** Channels of all sound that is played or written. */
const CHANNELS = 2;

/** Blocks whose levels are remembered, of each track and rate. */
const MOST_LEVELS = 100_000;

type Stereo = [Float32Array<ArrayBuffer>, Float32Array<ArrayBuffer>];

/** How sound is asked for: `whole`, however long it takes; `atOnce`: what is not made yet is heard as tape for now; or all as `tape`. */
export type Patience = 'whole' | 'atOnce' | 'tape';

/** Samples that are ready to be heard, and whether all is as it will be written. */
export interface MixedSound {
  /** One array a channel; null where nothing is heard. */
  channels: Float32Array<ArrayBuffer>[] | null;
  whole: boolean;
}

/** Whether a run's sound is made apart, or read as it is. */
interface Asked {
  patience: Patience;
  whole: boolean;
}

/**
 * All that is heard of a program, mixed: each run by its voice and level, tracks with their gains and ducking, then the master.
 * Any stretch may be asked for, and comes out the same in whatever order.
 */
export class ProgramMix {
  private readonly runs: readonly SoundRun[];
  private readonly byTrack: readonly SoundRun[][];
  private readonly levels = new Map<string, Map<number, number>>();

  /**
   * @param supplyOf a source by its id; undefined where it has no sound
   * @param voices where what was made is kept
   */
  constructor(
    private readonly program: Program,
    private readonly supplyOf: (sourceId: string) => Promise<SoundSupply | undefined>,
    private readonly voices: Voices,
  ) {
    this.runs = soundRuns(program);
    this.byTrack = program.tracks.map((_, index) => this.runs.filter(({ track }) => track === index));
  }

  /** The sources that may be heard, each once. */
  get sourceIds(): string[] {
    return [...new Set(this.runs.map(({ sourceId }) => sourceId))];
  }

  /**
   * Output samples of the program.
   *
   * @param first output sample, counted from the program's start
   * @param rate output samples per second
   */
  async read(first: number, count: number, rate: number, patience: Patience = 'whole'): Promise<MixedSound> {
    const asked: Asked = { patience, whole: true };
    const { master } = this.program;
    if (master?.limit === undefined)
      return { channels: await this.mixed(first, count, rate, asked), whole: asked.whole };
    const { before, after } = limitReach(rate);
    const around = await this.mixed(first - before, before + count + after, rate, asked);
    const channels = around && limited(around, first - before, count, master.limit, rate);
    return { channels, whole: asked.whole };
  }

  /** Makes ready what will be heard between two moments, in seconds. */
  async makeReady(from: number, to: number): Promise<void> {
    for (const run of this.runs) {
      if (!run.voice || run.from >= to || run.to <= from) continue;
      const supply = await this.supplyOf(run.sourceId);
      if (!supply) continue;
      const first = Math.ceil(Math.max(from, run.from) * supply.sampleRate);
      const last = Math.floor(Math.min(to, run.to) * supply.sampleRate) - 1;
      const sound = this.voices.of(run, supply);
      // A sample at either end is enough: it needs the sections they lie in.
      for (const at of new Set([first, last])) await sound.read({ run, first: at, count: 1 }, supply.sampleRate);
    }
  }

  private async mixed(first: number, count: number, rate: number, asked: Asked): Promise<Stereo | null> {
    const { tracks, master } = this.program;
    const out: Stereo = [new Float32Array(count), new Float32Array(count)];
    let heard = false;
    for (const [index, { sound = plainTrackSound }] of tracks.entries()) {
      const channels = await this.track(index, first, count, rate, asked);
      if (!channels) continue;
      heard = true;
      if (sound.duck) await this.duck(channels, sound.duck, first, rate, asked);
      channels.forEach((samples, side) => {
        for (let n = 0; n < count; n++) out[side]![n]! += samples[n]!;
      });
    }
    const gain = gainOf(master?.gain ?? 0);
    if (heard && gain !== 1) for (const channel of out) channel.forEach((value, n) => (channel[n] = gain * value));
    return heard ? out : null;
  }

  // A track at its own gain, before it gives way to another.
  private async track(index: number, first: number, count: number, rate: number, asked: Asked): Promise<Stereo | null> {
    const pieces = soundPieces(this.byTrack[index]!, rate, first, count);
    if (pieces.length === 0) return null;
    const out: Stereo = [new Float32Array(count), new Float32Array(count)];
    for (const piece of pieces) {
      const supply = await this.supplyOf(piece.run.sourceId);
      if (supply) await this.add(piece, supply, rate, out, first, asked);
    }
    const { gain, pan } = this.program.tracks[index]!.sound ?? plainTrackSound;
    if (gain !== 0 || pan !== 0) {
      const sides = panGains(pan).map((side) => side * gainOf(gain));
      out.forEach((channel, side) => channel.forEach((value, n) => (channel[n] = value * sides[side]!)));
    }
    return out;
  }

  private async add(
    piece: SoundPiece,
    supply: SoundSupply,
    rate: number,
    out: Stereo,
    first: number,
    asked: Asked,
  ): Promise<void> {
    const { run, count } = piece;
    const levelled = run.gainsAt !== null;
    // A source of one channel is heard on both sides; it has sides of its own only once it is laid to one.
    const wide = levelled || supply.channels > 1;
    let channels: Float32Array[];
    const voiced = run.voice ? this.voices.of(run, supply) : null;
    if (voiced && asked.patience !== 'whole' && (asked.patience === 'tape' || !voiced.isReady(piece, rate))) {
      asked.whole = false;
      channels = await this.tape(piece, supply, rate, wide);
    } else channels = voiced ? await voiced.read(piece, rate) : await this.tape(piece, supply, rate, wide);
    if (wide && channels.length === 1) channels = [channels[0]!, channels[0]!.slice()];
    putLevels(piece, supply, rate, channels);
    const at = piece.first - first;
    out.forEach((channel, side) => {
      const samples = channels[Math.min(side, channels.length - 1)]!;
      for (let n = 0; n < count; n++) channel[at + n]! += samples[n]!;
    });
  }

  private async tape(piece: SoundPiece, supply: SoundSupply, rate: number, wide: boolean): Promise<Float32Array[]> {
    const channels = Array.from({ length: wide ? CHANNELS : 1 }, () => new Float32Array(piece.count));
    await readTape(supply, piece, rate, channels, piece.first);
    return channels;
  }

  private async duck(
    channels: Stereo,
    duck: NonNullable<TrackSound['duck']>,
    first: number,
    rate: number,
    asked: Asked,
  ): Promise<void> {
    const under = this.program.tracks.findIndex(({ id }) => id === duck.under);
    if (under < 0 || this.byTrack[under]!.length === 0) return;
    const block = Math.round(DUCK_BLOCK * rate);
    const count = channels[0].length;
    const { before, after } = duckReach(duck);
    const [low, high] = [Math.floor(first / block) - before - 1, Math.ceil((first + count) / block) + after + 1];
    const levels = await this.levelsOf(under, low, high, rate, asked);
    const gains = new Map<number, number>();
    const gainAt = (index: number): number => {
      let gain = gains.get(index);
      if (gain === undefined) {
        const by = duckedBy(duck, (one) => levels.get(one) ?? -Infinity, index);
        gains.set(index, (gain = by));
      }
      return gain;
    };
    for (let n = 0; n < count; n++) {
      const place = (first + n) / block - 0.5;
      const index = Math.floor(place);
      const [a, b] = [gainAt(index), gainAt(index + 1)];
      if (a === 0 && b === 0) continue;
      const gain = gainOf(-(a + (place - index) * (b - a)));
      for (const channel of channels) channel[n]! *= gain;
    }
  }

  // The levels of a track's blocks, those that are not known yet listened to.
  private async levelsOf(
    track: number,
    low: number,
    high: number,
    rate: number,
    asked: Asked,
  ): Promise<Map<number, number>> {
    const key = `${track} ${rate}`;
    let known = this.levels.get(key);
    if (!known || known.size > MOST_LEVELS) this.levels.set(key, (known = new Map()));
    const block = Math.round(DUCK_BLOCK * rate);
    let from = low;
    while (from < high) {
      if (known.has(from)) {
        from++;
        continue;
      }
      let to = from;
      while (to < high && !known.has(to)) to++;
      // How loud something is hardly depends on its pitch: what is not made yet is listened to as it is.
      const channels = await this.track(track, from * block, (to - from) * block, rate, { ...asked });
      for (let one = from; one < to; one++) {
        known.set(one, channels ? levelOf(channels, (one - from) * block, (one - from + 1) * block) : -Infinity);
      }
      from = to;
    }
    return known;
  }
}
