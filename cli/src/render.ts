import { RenderPage } from '@hastig/worker/render-page';
import { extname, resolve } from 'node:path';
import {
  outputFormats,
  type Counting,
  type EdgeWay,
  type Effect,
  type Fields,
  type OutputFormat,
  type Rate,
  type RenderQuality,
  type RetimeMap,
  type Smooth,
  type SoundSettings,
} from '@hastig/contract';
import {
  cameraMoves,
  even,
  formatFacts,
  hasPicture,
  holding,
  mapProgram,
  pictureOf,
  rateToNumber,
  smoothedWay,
  steadyPath,
  wholeTrack,
  type Exposure,
  type FileMarks,
  type Size,
  type SteadyPath,
  type TrackedPoint,
} from '@hastig/core';
import type { RenderJob, RenderProgress, RenderResult } from '@hastig/engine';
import { silentWords } from '@hastig/engine/hearing';
import { cameraOf, type Taken } from './camera';
import { CommandFailed } from './fail';
import { takeClip, type TakenClip } from './source-facts';

interface RenderOptions {
  source: string;
  /** Its timing, or what makes one of how its frames are taken. */
  map: RetimeMap | ((clip: TakenClip) => RetimeMap);
  out: string;
  /** Frames per second of the file; the map's output rate unless given. */
  rate?: Rate;
  quality: RenderQuality;
  /** How pictures are exposed; each an instant unless given. */
  exposure?: Exposure;
  /** What is done to them then, in order. */
  effects?: readonly Effect[];
  /** Where something is in frames of the source, by frame: it is held still there. */
  steady?: { points: ReadonlyMap<number, TrackedPoint>; edges: EdgeWay };
  /** How its sound is made; as it comes, its pitch with the speed, unless told. */
  voice?: SoundSettings;
  /** How the camera's own movement is smoothed; as on a tripod where no seconds are told. */
  smooth?: Pick<Smooth, 'seconds' | 'model' | 'edges'>;
  sound: boolean;
  /** How an interlaced clip's fields are taken; what is not given is as the clip suggests. */
  fields?: Partial<Fields>;
  /** How frames at irregular times are counted; as fits best unless given. */
  counting?: Counting;
  /** What the file says it is called, and its chapters and start timecode. */
  title?: string | undefined;
  marks?: FileMarks;
  /** Which of the clip's tracks of sound is heard, counted from 0; the first unless given. */
  soundTrack?: number;
  onProgress(progress: RenderProgress): void;
  /** Hears of how many frames the camera is told, before the render begins. */
  onAnalysed?(frames: number): void;
  /** Told of what will not be as it might be expected. */
  onWarning?(words: string): void;
}

/** What the one source is called in its program. */
const SOURCE = 'source';

/**
 * Renders one clip through the engine in headless Chromium. The file gets its name when it is complete.
 *
 * @throws CommandFailed for a source that does not fit the map, cannot be read or decoded, or a place that
 *   cannot be written to
 */
export async function renderFile(options: RenderOptions): Promise<RenderResult> {
  const source = resolve(options.source);
  const out = resolve(options.out);
  const clip = await takeClip(source, options);
  const { facts, fields, counting, frames } = clip;
  const map = typeof options.map === 'function' ? options.map(clip) : options.map;
  if (map.sourceFrames !== frames) {
    throw new CommandFailed(
      `the map is for a source of ${map.sourceFrames} frames (sourceFrames), but ${options.source} has ${frames}`,
    );
  }
  const picture = pictureOf(facts);
  const tracks = facts.sounds?.length ?? (facts.audio ? 1 : 0);
  if (options.soundTrack !== undefined && options.soundTrack >= tracks) {
    throw new CommandFailed(
      `${options.source} has ${tracks} ${tracks === 1 ? 'sound track' : 'sound tracks'} (--sound-track)`,
    );
  }
  const silent = options.sound ? silentWords(facts.sounds?.[options.soundTrack ?? 0] ?? facts.audio) : undefined;
  if (silent) options.onWarning?.(silent);
  const format = formatOf(out, { picture: picture !== null, sound: tracks > 0 });
  const steady = picture && (await steadyFor({ ...options, map }, picture, { frames, fields, counting }));
  const page = await RenderPage.open(new Map([[SOURCE, source]]), options.onProgress);
  try {
    const job: Omit<RenderJob, 'target'> = {
      format,
      program: mapProgram(map, SOURCE, picture ? 'picture' : 'sound', {
        ...(options.effects?.length && { effects: [...options.effects] }),
        ...(options.voice && { sound: options.voice }),
        ...(steady && { steady }),
      }),
      sources: {
        [SOURCE]: {
          url: page.address(SOURCE),
          bytes: facts.bytes,
          stills: facts.still !== undefined,
          fields,
          counting,
          soundTrack: options.soundTrack ?? 0,
        },
      },
      rate: options.rate ?? map.outputRate,
      width: even(picture?.width ?? 2),
      height: even(picture?.height ?? 2),
      quality: options.quality,
      ...(options.exposure && { exposure: options.exposure }),
      sound: options.sound,
      ...(options.title && { title: options.title }),
      ...(options.marks && { marks: options.marks }),
    };
    return await page.render(job, out);
  } finally {
    await page.close();
  }
}

/** How frames are moved, where that is wished. */
async function steadyFor(
  { source, map, steady, smooth, onAnalysed }: RenderOptions & { map: RetimeMap },
  { width, height }: Size,
  taken: Taken,
): Promise<SteadyPath | undefined> {
  const size = { width, height };
  if (smooth) {
    const moves = cameraMoves(await cameraOf(resolve(source), taken, (frames) => onAnalysed?.(frames)), size);
    const { maps } = smoothedWay(moves, size, smooth, rateToNumber(map.sourceRate), 0);
    return steadyPath(maps, size, smooth.edges, { key: 'camera' });
  }
  return steady && steadied(steady, size, taken.frames);
}

/** A path that holds a tracked point where it was surest. */
function steadied({ points, edges }: NonNullable<RenderOptions['steady']>, size: Size, frames: number): SteadyPath {
  const all = wholeTrack(points, frames);
  const surest = all.reduce((best, { confidence }, n) => (confidence > all[best]!.confidence ? n : best), 0);
  return steadyPath(holding([all], size, surest), size, edges, { key: 'track' });
}

/** By the ending of the file's name: MP4 unless it says otherwise, and a WAVE file of what has no picture. */
function formatOf(out: string, { picture, sound }: { picture: boolean; sound: boolean }): OutputFormat {
  const ending = extname(out).slice(1).toLowerCase();
  const asked = oneFile.find((format) => formatFacts[format].ending === ending);
  if (!picture && asked !== undefined && hasPicture(asked)) {
    const endings = oneFile.filter((format) => !hasPicture(format)).map((format) => `.${formatFacts[format].ending}`);
    throw new CommandFailed(`the clip has no picture: it can be written as ${endings.join(', ')} (--out)`);
  }
  if (asked !== undefined && !hasPicture(asked) && !sound)
    throw new CommandFailed(`the clip has no sound to write as .${ending} (--out)`);
  return asked ?? (picture ? 'mp4' : 'wav');
}

/** Formats that are one file, not many in a ZIP. */
const oneFile = outputFormats.filter((format) => formatFacts[format].kind !== 'stills');
