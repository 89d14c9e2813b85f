import { formatFacts, picturePlan, rateToNumber } from '@hastig/core';
import { Output, StreamTarget } from 'mediabunny';
import { ProgramSound } from '../media/program-sound';
import { SourcePool } from '../media/source-pool';
import { MakerPool, makersForDevice } from '../picture/makers/maker-pool';
import { Studio } from '../picture/samples';
import { encodeFilm, encodeFilmSound, encodeSound, stretchOf } from './film';
import { outputFormat } from './formats';
import { gifOf } from './gif';
import type { RenderJob, RenderProgress, RenderResult } from './job';
import { joinFilm } from './joined';
import type { Made } from './made';
import { MarkedFile } from './marked';
import type { SoundSide } from './sound-side';
import { stillsOf, zipOfStills } from './stills';
import { openFolder, openTarget, type OpenTarget } from './targets';
import { Gate, RenderCancelled, Told } from './told';

/**
 * Bytes of decoded pictures kept: less than a stage keeps, for a render mostly goes one way and seldom comes back. A long
 * group passed backwards is decoded again in parts instead.
 */
const FRAME_BUDGET = 72 * 2 ** 20;

/** Pieces of half a second that another worker may be ahead of the pictures with its sound. */
const PIECES_AHEAD = 6;

/** Bytes of a file that are written at once. */
const CHUNK = 2 ** 20;

interface Control {
  onProgress(progress: RenderProgress): void;
  signal: AbortSignal;
  gate?: Gate;
  /** Of the program, where another worker makes it; it is made here otherwise. */
  sound?: SoundSide;
}

/**
 * Renders a program to a file of any form, streaming: what the plan asks for, decoded, encoded, written, one after the other. Nothing
 * stands under the file's name unless all of it is there.
 *
 * @throws RenderCancelled when `signal` is aborted; RefusedMedia and what decoder, encoder or storage throw
 */
export async function render(job: RenderJob, control: Control): Promise<RenderResult> {
  const { onProgress, signal, gate = new Gate(), sound } = control;
  const started = performance.now();
  const pool = new SourcePool(FRAME_BUDGET);
  const studio = new Studio(pool, new MakerPool(makersForDevice()));
  studio.follow(job.program);
  await pool.locate(job.sources);
  const plan = picturePlan(job.program, job.rate, job.exposure, job.span);
  let bytes = 0;
  const { from, to } = stretchOf({ job, plan });
  const told = new Told({ total: to - from, bytes: () => bytes, onProgress, signal, gate });
  const side = sound ?? new ProgramSound(job.program, pool);
  const made: Made = { job, plan, studio, side, told, ahead: sound ? PIECES_AHEAD : 0 };
  try {
    const write = job.target.to === 'folder' ? writeFolder : writeFile;
    const name = await write(made, (end) => (bytes = Math.max(bytes, end)));
    const took = (performance.now() - started - told.waited) / 1000;
    return { name, frames: plan.count, seconds: plan.count / rateToNumber(job.rate), bytes, took };
  } catch (error) {
    throw signal.aborted ? new RenderCancelled() : error;
  } finally {
    await studio.close();
  }
}

/** Hears how many bytes there are. */
type OnBytes = (end: number) => void;

/** Writes one file. @returns its name */
async function writeFile(made: Made, onBytes: OnBytes): Promise<string> {
  const { job, told } = made;
  const { target } = job;
  if (target.to === 'folder') throw new TypeError('A folder takes pictures that are files of their own.');
  const open = await openTarget(target);
  try {
    const { kind } = formatFacts[job.format];
    if (kind === 'stills') await pour(zipOfStills(made, stemOf(job)), open, onBytes);
    else if (kind === 'moving-picture') await pour(gifOf(made), open, onBytes);
    else await writeContainer(made, open, onBytes);
    told.all();
    return await open.commit();
  } catch (error) {
    await open.discard().catch(() => undefined);
    throw error;
  }
}

function encoderFor({ format, only, parts }: RenderJob): (made: Made, output: Output) => Promise<void> {
  if (parts) return joinFilm;
  if (only === 'sound') return encodeFilmSound;
  return formatFacts[format].kind === 'sound' ? encodeSound : encodeFilm;
}

async function writeContainer(made: Made, { writable }: OpenTarget, onBytes: OnBytes): Promise<void> {
  const { job } = made;
  const file = new MarkedFile(job, writable, onBytes);
  const stream = new StreamTarget(file.writable, { chunked: true, chunkSize: CHUNK });
  stream.on('write', ({ end }) => onBytes(end));
  const output = new Output({ format: outputFormat(job, file.onMovie), target: stream });
  output.setMetadataTags(file.tags);
  try {
    await encoderFor(job)(made, output);
    await output.finalize();
  } catch (error) {
    if (output.state !== 'finalized' && output.state !== 'canceled') await output.cancel().catch(() => undefined);
    throw error;
  }
}

/** Writes pieces one after the other, in chunks: each write costs, however little it writes. */
async function pour(
  pieces: AsyncIterable<Uint8Array> | ReadableStream<Uint8Array>,
  { writable }: OpenTarget,
  onBytes: OnBytes,
): Promise<void> {
  const writer = writable.getWriter();
  const chunk = new Uint8Array(CHUNK);
  let [position, filled] = [0, 0];
  const flush = async (): Promise<void> => {
    await writer.write({ type: 'write', data: chunk.slice(0, filled), position });
    position += filled;
    filled = 0;
    onBytes(position);
  };
  // Streams can be gone through piece by piece, which the library of types does not know of everywhere.
  for await (const piece of pieces as AsyncIterable<Uint8Array>) {
    for (let at = 0; at < piece.length;) {
      const part = piece.subarray(at, at + CHUNK - filled);
      chunk.set(part, filled);
      filled += part.length;
      at += part.length;
      if (filled === CHUNK) await flush();
    }
  }
  if (filled > 0) await flush();
  await writer.close();
}

/** Writes pictures into a folder of their own in one that was chosen. @returns its name */
async function writeFolder(made: Made, onBytes: OnBytes): Promise<string> {
  const { job, told } = made;
  const { target } = job;
  if (target.to !== 'folder') throw new TypeError('There is no folder.');
  const folder = await openFolder(target.folder, target.name);
  let bytes = 0;
  try {
    for await (const { name, picture } of stillsOf(made, stemOf(job))) {
      await folder.put(name, picture);
      onBytes((bytes += picture.size));
    }
    told.all();
    return folder.name;
  } catch (error) {
    await folder.discard().catch(() => undefined);
    throw error;
  }
}

/** What numbered pictures are called before their numbers. */
function stemOf({ target }: RenderJob): string {
  return target.name?.replace(/\.[^.]+$/, '') ?? 'frame';
}
