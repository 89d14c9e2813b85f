import { stat } from 'node:fs/promises';
import type { Effect } from '@hastig/contract';
import { constantSpan, mapProgram, plainPicture, moveMap, steadyPath, type Exposure, type Size } from '@hastig/core';
import type { RenderJob } from '@hastig/engine';
import { line } from './line';
import { here, openBench } from './render-page';

/** Frames of the demo's bowl, at 60 a second. */
const FRAMES = 300;
const RATE = { num: 60, den: 1 };
const ROUNDS = 3;

interface Case {
  name: string;
  height: number;
  speed: number;
  exposure?: Exposure;
  /** Lies otherwise than it is. */
  placed?: boolean;
  /** Held still, with copies of five earlier pictures, in the light of a flash. */
  effects?: boolean;
  /** Source frames that are passed. */
  frames: number;
}

const CASES: readonly Case[] = [
  { name: '×16, averaged from 16 frames each', height: 720, speed: 16, frames: 296, exposure: open('held') },
  { name: 'held', height: 720, speed: 1, frames: 200 },
  { name: 'steadied, with a trail and a flash', height: 720, speed: 1, frames: 120, effects: true },
  { name: 'placed, turned', height: 720, speed: 1, frames: 120, placed: true },
  { name: '×0.4 blended', height: 720, speed: 0.4, frames: 40, exposure: { slow: 'blended', shutter: 0, samples: 16 } },
  {
    ...{ name: '×0.25 compensated', height: 720, speed: 0.25, frames: 16 },
    exposure: { slow: 'compensated', shutter: 0, samples: 16 },
  },
  {
    ...{ name: '×0.25 compensated', height: 360, speed: 0.25, frames: 30 },
    exposure: { slow: 'compensated', shutter: 0, samples: 16 },
  },
];

function open(slow: Exposure['slow']): Exposure {
  return { slow, shutter: 360, samples: 16 };
}

/** How fast pictures of each kind are made, beside decoding the same source. */
export async function benchExposures(): Promise<void> {
  const bench = await openBench();
  const bowl = `${bench.address}/demo/bowl`;
  const { size } = await stat(here('../demo/media/bowl.mp4'));
  const small = await bench.page.evaluate((one) => window.exportedTo(one), {
    ...jobOf({ name: '', height: 360, speed: 1, frames: FRAMES }, bowl, size),
    target: { to: 'address', url: `${bench.address}/clip` },
  } satisfies RenderJob);
  for (const one of CASES) {
    const [address, bytes] = one.height === 720 ? [bowl, size] : [`${bench.address}/clip`, small];
    const job = { ...jobOf(one, address, bytes), target: { to: 'address', url: `${bench.address}/out` } } as RenderJob;
    const made: number[] = [];
    const decoded: number[] = [];
    for (let round = 0; round < ROUNDS; round++) {
      decoded.push(await bench.page.evaluate((from) => window.decoded(from), address));
      made.push(await bench.page.evaluate((order) => window.exported(order), job));
    }
    const [rate, plain] = [Math.max(...made), Math.max(...decoded)];
    const passed = Math.round(rate * one.speed);
    line(
      `${one.height}p ${one.name}`,
      `${rate.toFixed(1)} pictures/s, ${passed} source frames/s; ${plain.toFixed(0)} decoded alone; ratio ${(passed / plain).toFixed(2)}`,
    );
  }
  await bench.close();
}

/** A path of a few pixels to and fro, five copies at 80% (common practice), and a flash that lasts. */
function effectsOf(size: Size, frames: number) {
  const moves = Array.from({ length: FRAMES }, (_, n) =>
    moveMap({ x: 9 * Math.sin(n / 5), y: 6 * Math.cos(n / 7), turn: 0, size: 1 }, size),
  );
  const trail: Effect = { id: 't', kind: 'trail', by: 'frames', apart: 1, copies: 5, decay: 0.8, combine: 'lightest' };
  const flash: Effect = {
    ...{ id: 'f', kind: 'flash', way: 'light', strength: 1, colour: '#ffffff', curve: 'linear', peak: frames / 2 },
    over: { by: 'output', from: 0, to: frames },
  };
  return { effects: [trail, flash], steady: steadyPath(moves, size, 'mirror', { key: 'bench' }) };
}

function jobOf({ height, speed, exposure, placed, effects, frames }: Case, url: string, bytes: number): RenderJob {
  const span = constantSpan(speed, Math.floor(frames / speed));
  const map = { sourceRate: RATE, outputRate: RATE, sourceFrames: FRAMES, start: 0, spans: [span] };
  const width = (height * 16) / 9;
  const program = mapProgram(map, 'source', 'picture', effects ? effectsOf({ width, height }, frames) : {});
  if (placed) {
    program.tracks[0]!.items[0]!.picture = { ...plainPicture, scale: 0.8, turn: 10 };
    program.sizes = { source: { width, height } };
    program.frame = { width, height };
  }
  return {
    format: 'mp4',
    program,
    sources: { source: { url, bytes } },
    rate: RATE,
    ...(exposure && { exposure }),
    ...{ width, height, quality: 'high', sound: false },
    target: { to: 'address', url: '' },
  };
}
