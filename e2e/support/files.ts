import { execFile } from 'node:child_process';
import { existsSync } from 'node:fs';
import { mkdtemp, readFile, writeFile } from 'node:fs/promises';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { fileURLToPath } from 'node:url';
import { promisify } from 'node:util';
import { expect } from '@playwright/test';
import type { RetimeMap } from '@hastig/contract';
import { frameCount, type YuvSpace } from '@hastig/core';
import { renderFile } from '../../cli/src/render';
import { WaveFile } from '../../cli/src/wave-file';
import { bundled } from '@hastig/launch';
import { openHeadlessPage, type HeadlessPage } from '@hastig/headless';
import type { CodedBars } from './bars-page';
import type { CodedSound, DrawnStill } from './made-page';
import type { CodedPlates, PicturePart, PlatesRead, SoundPeak } from './plates-page';

const root = fileURLToPath(new URL('../../', import.meta.url));
const run = promisify(execFile);

export const fixture = (name: string): string => join(root, 'e2e/fixtures', name);
export const demoSound = (file: string): string => join(root, 'demo/media', file);
export const demoClip = (name: string): string => join(root, 'demo/media', `${name}.mp4`);

/** A folder of its own for a test's files. */
export function scratch(): Promise<string> {
  return mkdtemp(join(tmpdir(), 'hastig-test-'));
}

let commandLine: Promise<string> | undefined;

/** Runs the command line as a user does, without npm around it. */
export async function hastig(...args: string[]): Promise<{ stdout: string; stderr: string }> {
  return run(
    process.execPath,
    ['--enable-source-maps', await (commandLine ??= bundled(join(root, 'cli/src/main.ts'))), ...args],
    {
      cwd: root,
      maxBuffer: 2 ** 26,
    },
  );
}

type RenderFlags = Partial<Omit<Parameters<typeof renderFile>[0], 'source' | 'map' | 'out'>>;

/**
 * Renders a clip at a timing as the command line does, without starting it anew, to a file of that name, which says what it becomes;
 * returns the file.
 */
export async function renderMapAs(
  name: string,
  source: string,
  map: RetimeMap,
  flags: RenderFlags = {},
): Promise<string> {
  const out = join(await scratch(), name);
  const plain = { quality: 'high', sound: true, onProgress: () => undefined } as const;
  const { frames } = await renderFile({ ...plain, ...flags, source, map, out });
  expect(frames).toBe(frameCount(map));
  return out;
}

/** The same, as MP4 (or WAVE, where the clip has no picture). */
export const renderMap = (source: string, map: RetimeMap, flags?: RenderFlags): Promise<string> =>
  renderMapAs('out', source, map, flags);

/** Renders a clip at a timing from the command line itself; returns the file. */
export async function renderByCommand(source: string, map: RetimeMap, ...flags: string[]): Promise<string> {
  const folder = await scratch();
  const [mapFile, out] = [join(folder, 'map.json'), join(folder, 'out.mp4')];
  await writeFile(mapFile, JSON.stringify(map));
  const { stdout } = await hastig('render', '--source', source, '--map', mapFile, '--out', out, ...flags);
  expect(stdout).toContain(`${frameCount(map)} frames`);
  expect(existsSync(`${out}.part`)).toBe(false);
  return out;
}

/** Writes a file's sound at a timing from the command line and reads it: one array a channel. */
export async function retimedSound(source: string, map: RetimeMap, ...flags: string[]): Promise<Float32Array[]> {
  const folder = await scratch();
  const [mapFile, out] = [join(folder, 'map.json'), join(folder, 'out.wav')];
  await writeFile(mapFile, JSON.stringify(map));
  await hastig('sound', '--source', source, '--map', mapFile, '--out', out, ...flags);
  const bytes = await readFile(out);
  // RIFF, “fmt ” with its extension and “fact”: 58 bytes; then floats of two channels in turn.
  const samples = new Float32Array(new Uint8Array(bytes.subarray(58)).buffer);
  return [0, 1].map((side) => samples.filter((_, n) => n % 2 === side));
}

/** Writes seconds of made sound, both sides alike, as a WAVE file of 48000 samples a second. */
export async function writeWave(path: string, sampleAt: (n: number) => number, seconds: number): Promise<void> {
  const file = await WaveFile.create(path, 2, 48_000);
  const turns = Float32Array.from({ length: 2 * 48_000 * seconds }, (_, n) => sampleAt(n >> 1));
  await file.add(Buffer.from(turns.buffer));
  await file.close();
}

/** Held frame of every output frame, from the command line's own table. */
export async function heldFrames(map: RetimeMap): Promise<number[]> {
  const file = join(await scratch(), 'map.json');
  await writeFile(file, JSON.stringify(map));
  const { stdout } = await hastig('frame-map', file);
  return stdout
    .trim()
    .split('\n')
    .slice(1)
    .map((line) => Number(line.split(',')[2]));
}

/** Files that are read, by the number in their address. */
const read: string[] = [];
/** One page reads all files of a worker; it ends with the worker. */
let reader: Promise<HeadlessPage> | undefined;

async function inFilePage<T>(
  file: string,
  task: (page: HeadlessPage['page'], address: string) => Promise<T>,
): Promise<T> {
  reader ??= openHeadlessPage({
    entry: fileURLToPath(new URL('./plates-page.ts', import.meta.url)),
    routes: (app) =>
      app.get('/file/:number', ({ params }, response) => response.sendFile(read[Number(params.number)]!)),
  });
  const { page, address } = await reader;
  return task(page, `${address}/file/${read.push(file) - 1}`);
}

/** Decodes a file and reads the number on each of its pictures, or on a part of each. */
export function readPlates(file: string, large = true, part?: PicturePart): Promise<PlatesRead> {
  return inFilePage(file, (page, address) =>
    page.evaluate(([from, big, some]) => window.readPlates(from, big, some), [address, large, part] as const),
  );
}

/** Codes a clip of numbered pictures in the browser; returns the file, a WebM. */
export async function codePlates(wanted: CodedPlates): Promise<string> {
  const file = join(await scratch(), 'coded.webm');
  const bytes = await inFilePage('', (page) => page.evaluate((order) => window.codePlates(order), wanted));
  await writeFile(file, Buffer.from(bytes));
  return file;
}

/** Codes a clip of colour bars in the browser; returns the file. */
export async function codeBars(wanted: CodedBars): Promise<string> {
  const file = join(await scratch(), `bars.${wanted.as}`);
  const bytes = await inFilePage('', (page) => page.evaluate((order) => window.codeBars(order), wanted));
  await writeFile(file, Buffer.from(bytes));
  return file;
}

/** How far means by the graphics processor are from those without; see the page. */
export function compareGraphics(width: number, height: number, space: YuvSpace, gain?: number) {
  return inFilePage('', (page) =>
    page.evaluate(([w, h, of, more]) => window.compareGraphics(w, h, of, more), [width, height, space, gain] as const),
  );
}

/** Whether a graphics processor is found to add up right; null where there is none. */
export const graphicsAddRight = (): Promise<boolean | null> =>
  inFilePage('', (page) => page.evaluate(() => window.graphicsAddRight()));

/** Whether a mean is told to be lost where the device takes the graphics processor away; null where there is none. */
export const loseGraphics = (): Promise<boolean | null> =>
  inFilePage('', (page) => page.evaluate(() => window.loseGraphics()));

/** What the browser draws of each colour bar of a file's frame: red, green and blue, 0…255. */
export function readBars(file: string, frame = 0): Promise<number[][]> {
  return inFilePage(file, (page, address) =>
    page.evaluate(([from, at]) => window.readBars(from, at), [address, frame] as const),
  );
}

/** How alike a file's pictures are to true ones where something moves, in decibels: see `likeness` of the page. */
export function likeness(
  made: string,
  truth: string,
  pairs: readonly (readonly [made: number, truth: number])[],
  away: number,
): Promise<number[]> {
  return inFilePage(made, (page, one) =>
    inFilePage(truth, (_, other) =>
      page.evaluate(([first, second, list, apart]) => window.likeness(first, second, list, apart), [
        one,
        other,
        pairs,
        away,
      ] as const),
    ),
  );
}

/** How alike a file's pictures are to true ones in their structure: see `structure` of the page. */
export function structure(
  made: string,
  truth: string,
  pairs: readonly (readonly [made: number, truth: number])[],
  width: number,
): Promise<number> {
  return inFilePage(made, (page, one) =>
    inFilePage(truth, (_, other) =>
      page.evaluate(([first, second, list, across]) => window.structure(first, second, list, across), [
        one,
        other,
        pairs,
        width,
      ] as const),
    ),
  );
}

/** Codes sound alone in the browser; returns the file, named after its kind. */
export async function codeSound(wanted: CodedSound): Promise<string> {
  const file = join(await scratch(), `knocks.${wanted.as}`);
  const bytes = await inFilePage('', (page) => page.evaluate((order) => window.codeSound(order), wanted));
  await writeFile(file, Buffer.from(bytes));
  return file;
}

/** Draws a still with a plate in the browser. */
export async function drawStill(wanted: DrawnStill): Promise<Buffer> {
  return Buffer.from(await inFilePage('', (page) => page.evaluate((order) => window.drawStill(order), wanted)));
}

/** What the browser draws of a clip's first picture at a place: red, green and blue, 0…255. */
export function drawnColour(file: string, x: number, y: number): Promise<number[]> {
  return inFilePage(file, (page, address) =>
    page.evaluate(([from, across, down]) => window.drawnColour(from, across, down), [address, x, y] as const),
  );
}

/** The loudest of a stretch of a file's sound, on one of its sides. */
export function soundPeak(file: string, from: number, to: number, channel = 0): Promise<SoundPeak> {
  return inFilePage(file, (page, address) =>
    page.evaluate(([sound, a, b, side]) => window.soundPeak(sound, a, b, side), [
      address,
      Math.max(0, from),
      to,
      channel,
    ] as const),
  );
}
