import { constantSpan, makeRate, mapProgram, type Program } from '@hastig/core';
import type { SourceLocations } from '../media/source-pool';
import { StageSound } from './stage-sound';

const mockPool = { located: [] as unknown[], broken: false };
/** What is being made: the lengths of the programs it is for, and what ends the one that is at it. */
const mockMaking = { begun: [] as number[], end: () => undefined as void };

jest.mock('../media/source-pool', () => ({
  SourcePool: class {
    locate = (sources: unknown) => Promise.resolve(void mockPool.located.push(sources));
  },
}));
jest.mock('../media/program-sound', () => ({
  ProgramSound: class {
    constructor(private readonly program: { length: number }) {}
    read = (first: number, count: number) =>
      mockPool.broken
        ? Promise.reject(new Error('damaged'))
        : Promise.resolve({ channels: [new Float32Array([this.program.length, first, count])], whole: true });
    makeReady = () =>
      new Promise<void>((done) => {
        mockMaking.begun.push(this.program.length);
        mockMaking.end = done;
      });
  },
}));

const program = (frames: number): Program => {
  const rate = makeRate(24);
  return mapProgram(
    { sourceRate: rate, outputRate: rate, sourceFrames: 100, start: 0, spans: [constantSpan(1, frames)] },
    'a',
  );
};
const sources: SourceLocations = { a: { url: 'a', bytes: 1 } };

beforeEach(() => {
  Object.assign(mockPool, { located: [], broken: false });
  mockMaking.begun = [];
});

it('a stage is silent until it has a program, and then reads from the one it has', async () => {
  const sound = new StageSound();
  expect(await sound.read(0, 10, 48_000)).toBeNull();
  await sound.setProgram(program(50), sources);
  expect([...(await sound.read(7, 10, 48_000))![0]!]).toEqual([50, 7, 10]);
  await sound.setProgram(program(20), null);
  expect([...(await sound.read(7, 10, 48_000))![0]!]).toEqual([20, 7, 10]);
  expect(mockPool.located).toEqual([sources]);
});

it('getting ready passes over what cannot be read; reading does not', async () => {
  const sound = new StageSound();
  await sound.setProgram(program(50), sources);
  mockPool.broken = true;
  await expect(sound.prepare(1, 48_000)).resolves.toBeUndefined();
  await expect(sound.read(0, 10, 48_000)).rejects.toThrow('damaged');
});

it('makes sound for one program at a time, and only for the last one that is wanted', async () => {
  const sound = new StageSound();
  await sound.setProgram(program(50), sources);
  await sound.read(0, 10, 48_000);
  for (const frames of [51, 52, 53]) {
    await sound.setProgram(program(frames), null);
    await sound.read(0, 10, 48_000);
  }
  expect(mockMaking.begun).toEqual([50]);
  mockMaking.end();
  await new Promise((done) => setTimeout(done));
  expect(mockMaking.begun).toEqual([50, 53]);
});
