import type { ProjectDocument, Rate } from '@hastig/contract';
import Papa from 'papaparse';
import { motionAt, programFrames, programOf, type SeenMotion } from '../../program';
import { formatTimecode } from '../../time';
import { SEQUENCE } from '../../timeline/lookup';

/** What stands at a frame of the film; without `seen` nothing does. */
interface FrameTiming {
  frame: number;
  seen: SeenMotion | undefined;
}

/** Every frame of the film, one after the other: each `next` is one. */
export function* filmFrames(project: ProjectDocument): Generator<FrameTiming> {
  const program = programOf(project, SEQUENCE);
  const frames = program.length > 0 ? programFrames(program) : 0;
  for (let frame = 0; frame < frames; frame++) yield { frame, seen: motionAt(program, frame) };
}

const nameOf = (list: readonly { id: string; name: string }[]): ReadonlyMap<string, string> =>
  new Map(list.map(({ id, name }) => [id, name]));

/** Digits of positions and speeds behind the point: far less than a frame in a day. */
const exact = (value: number): number => Math.round(value * 1e6) / 1e6 + 0;

const frameColumns = ['frame', 'timecode', 'clip', 'source', 'source_frame', 'position', 'speed'] as const;

/**
 * The frame map of the film as CSV (RFC 4180): for every frame the clip and the source that are on top, the source's frame, counted from
 * 0, the exact position in it, and the speed as a factor of real time. Where nothing is seen only frame and timecode are told.
 */
export class FrameMapCsv {
  private readonly lines: string[] = [frameColumns.join(',')];
  private readonly clips: ReadonlyMap<string, string>;
  private readonly sources: ReadonlyMap<string, string>;

  constructor(private readonly project: ProjectDocument) {
    this.clips = nameOf(project.clips);
    this.sources = nameOf(project.sources);
  }

  add({ frame, seen }: FrameTiming): void {
    const { rate, startFrame } = this.project.sequence;
    const timecode = formatTimecode(frame + startFrame, rate);
    const told = seen
      ? [this.clips.get(seen.clipId), this.sources.get(seen.sourceId), seen.frame, exact(seen.position), exact(seen.speed)] // prettier-ignore
      : ['', '', '', '', ''];
    // A name that a spreadsheet would take for a formula is kept from being one.
    this.lines.push(Papa.unparse([[frame, timecode, ...told]], { header: false, escapeFormulae: true }));
  }

  /** All of it. */
  get text(): string {
    return `${this.lines.join('\r\n')}\r\n`;
  }
}

/** The timing of a film as JSON, see `docs/formats.md`: rows of numbers, one for each of its frames. */
interface TimingFile {
  format: 'frame-timing';
  version: 1;
  name: string;
  rate: Rate;
  /** The timecode's frame that stands at frame 0. */
  startFrame: number;
  sources: { name: string; sha256: string }[];
  clips: string[];
  /** By frame: which source and clip, counted from 0; null where nothing is seen. */
  source: (number | null)[];
  clip: (number | null)[];
  sourceFrame: (number | null)[];
  position: (number | null)[];
  speed: (number | null)[];
}

/** Source frame and speed of every frame of the film as JSON. */
export class TimingJson {
  private readonly file: TimingFile;
  private readonly sources: ReadonlyMap<string, number>;
  private readonly clips: ReadonlyMap<string, number>;

  constructor({ name, sequence, sources, clips }: ProjectDocument) {
    const { rate, startFrame } = sequence;
    this.sources = new Map(sources.map(({ id }, index) => [id, index]));
    this.clips = new Map(clips.map(({ id }, index) => [id, index]));
    this.file = {
      ...{ format: 'frame-timing', version: 1, name, rate, startFrame },
      sources: sources.map((source) => ({ name: source.name, sha256: source.sha256 })),
      clips: clips.map((clip) => clip.name),
      ...{ source: [], clip: [], sourceFrame: [], position: [], speed: [] },
    };
  }

  add({ seen }: FrameTiming): void {
    const { file } = this;
    file.source.push(seen ? this.sources.get(seen.sourceId)! : null);
    file.clip.push(seen ? this.clips.get(seen.clipId)! : null);
    file.sourceFrame.push(seen ? seen.frame : null);
    file.position.push(seen ? exact(seen.position) : null);
    file.speed.push(seen ? exact(seen.speed) : null);
  }

  get text(): string {
    return `${JSON.stringify(this.file)}\n`;
  }
}
