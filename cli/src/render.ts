import { open, rename, rm } from 'node:fs/promises';
import { dirname, extname, resolve } from 'node:path';
import { fileURLToPath } from 'node:url';
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
} from '@hastig/contract';
import {
  cameraMoves,
  countingOf,
  even,
  fileCountOf,
  formatFacts,
  framesPerFileFrame,
  hasPicture,
  holding,
  mapProgram,
  pictureOf,
  rateToNumber,
  smoothedWay,
  steadyPath,
  suggestedFields,
  wholeTrack,
  type Exposure,
  type FileMarks,
  type Size,
  type SteadyPath,
  type TrackedPoint,
} from '@hastig/core';
import type { RenderJob, RenderProgress, RenderResult } from '@hastig/engine';
import { silentWords } from '@hastig/engine/hearing';
import { openHeadlessPage } from '@hastig/headless';
import express from 'express';
import { cameraOf, type Taken } from './camera';
import { CommandFailed } from './fail';
import { factsOf } from './source-facts';

interface RenderOptions {
  source: string;
  map: RetimeMap;
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
  /** How the camera's own movement is smoothed; as on a tripod where no seconds are told. */
  smooth?: Pick<Smooth, 'seconds' | 'model' | 'edges'>;
  sound: boolean;
  /** How an interlaced clip's fields are taken; what is not given is as the clip suggests. */
  fields?: Partial<Fields>;
  /** How frames at irregular times are counted; as fits best unless given. */
  counting?: Counting;
  /** What the file says it is called, and its chapters and start timecode. */
  title?: string;
  marks?: FileMarks;
  /** Which of the clip's tracks of sound is heard, counted from 0; the first unless given. */
  soundTrack?: number;
  onProgress(progress: RenderProgress): void;
  /** Hears of how many frames the camera is told, before the render begins. */
  onAnalysed?(frames: number): void;
  /** Told of what will not be as it might be expected. */
  onWarning?(words: string): void;
}

// The function that `page.evaluate` calls runs in the page, where `renderJob` was put by `page/render-page.ts`.
declare const renderJob: (job: RenderJob) => Promise<RenderResult>;

/** What the one source is called in its program. */
const SOURCE = 'source';

const engineWorker = fileURLToPath(import.meta.resolve('@hastig/engine/worker'));

/**
 * Renders one clip through the engine in headless Chromium. The page reads the source in ranges and sends back the file
 * in pieces; it gets its name when it is complete.
 *
 * @throws CommandFailed for a source that does not fit the map, cannot be read or decoded, or a place that
 *   cannot be written to
 */
export async function renderFile(options: RenderOptions): Promise<RenderResult> {
  const source = resolve(options.source);
  const out = resolve(options.out);
  const facts = await factsOf(source);
  const suggested = suggestedFields({ facts });
  const fields: Fields = {
    use: options.fields?.use ?? suggested.use,
    first: options.fields?.first ?? suggested.first,
  };
  const counting = countingOf({
    facts,
    fields,
    ...(options.counting && facts.video?.varying && { counting: options.counting }),
  });
  const frames = fileCountOf({ facts, fields, counting }).frames * framesPerFileFrame(fields);
  if (options.map.sourceFrames !== frames) {
    throw new CommandFailed(
      `the map is for a source of ${options.map.sourceFrames} frames (sourceFrames), but ${options.source} has ${frames}`,
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
  const steady = picture && (await steadyFor(options, picture, { frames, fields, counting }));
  const part = `${out}.part`;
  const file = await open(part, 'w').catch((error: NodeJS.ErrnoException) => {
    throw new CommandFailed(error.code === 'ENOENT' ? `${dirname(out)}: folder not found` : error.message);
  });
  const headless = await openHeadlessPage({
    entry: fileURLToPath(new URL('./page/render-page.ts', import.meta.url)),
    bundles: { '/engine/engine.worker.js': engineWorker },
    routes: (app) => {
      app.get('/source', (_request, response) => response.sendFile(source, { dotfiles: 'allow' }));
      app.put('/out', express.raw({ type: () => true, limit: '64mb' }), async (request, response) => {
        await file.write(request.body as Buffer, 0, undefined, Number(request.query.position));
        response.end();
      });
      app.post('/out', (_request, response) => void response.end());
      app.delete('/out', (_request, response) => void response.end());
    },
  }).catch(async (error: Error) => {
    await file.close();
    await rm(part, { force: true });
    throw new CommandFailed(error.message);
  });
  try {
    await headless.page.exposeFunction('onRenderProgress', options.onProgress);
    const job: RenderJob = {
      format,
      program: mapProgram(options.map, SOURCE, picture ? 'picture' : 'sound', {
        ...(options.effects?.length && { effects: [...options.effects] }),
        ...(steady && { steady }),
      }),
      sources: {
        [SOURCE]: {
          url: `${headless.address}/source`,
          bytes: facts.bytes,
          stills: facts.still !== undefined,
          fields,
          counting,
          soundTrack: options.soundTrack ?? 0,
        },
      },
      rate: options.rate ?? options.map.outputRate,
      width: even(picture?.width ?? 2),
      height: even(picture?.height ?? 2),
      quality: options.quality,
      ...(options.exposure && { exposure: options.exposure }),
      sound: options.sound,
      ...(options.title && { title: options.title }),
      ...(options.marks && { marks: options.marks }),
      target: { to: 'address', url: `${headless.address}/out` },
    };
    const result = await headless.page.evaluate((order) => renderJob(order), job);
    await file.sync();
    await file.close();
    await rename(part, out);
    return result;
  } catch (error) {
    await file.close().catch(() => undefined);
    await rm(part, { force: true });
    throw new CommandFailed(
      (error as Error).message.replace(/^page\.evaluate: (\w*Error: |RefusedMedia: )?/, '').split('\n')[0]!,
    );
  } finally {
    await headless.close();
  }
}

/** How frames are moved, where that is wished. */
async function steadyFor(
  { source, map, steady, smooth, onAnalysed }: RenderOptions,
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
