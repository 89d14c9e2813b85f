import { constantSpan, makeRate, mapProgram, type Program, type ProgramUpdate } from '@hastig/core';
import type { StageEvents } from './stage-events';
import { Stage } from './stage';

interface FakeApi {
  shown: number[];
  /** Lengths of the programs that the sound's worker was given, and whether it was told where the sources are. */
  heard: [length: number, located: boolean][];
  /** Seconds at which the sound began, and how long it was to be. */
  started: [seconds: number, length: number][];
  events?: StageEvents;
  /** What is called when a worker breaks down: the pictures', the sound's, and those that came after. */
  breakdowns: (() => void)[];
}

const mockFake: FakeApi = { shown: [], heard: [], started: [], breakdowns: [] };

jest.mock('../worker/handle', () => ({
  startWorker: () => ({
    api: {
      stageAttach: (_canvas: unknown, events: StageEvents) => (mockFake.events = events),
      stageSetProgram: () => Promise.resolve(),
      soundSetProgram: (program: ProgramUpdate, sources: unknown) =>
        Promise.resolve(void mockFake.heard.push([program.length, sources !== null])),
      soundPrepare: () => Promise.resolve(),
      stageShow: (frame: number) => Promise.resolve(void mockFake.shown.push(frame)),
      stagePreroll: () => Promise.resolve(),
      stagePlay: (clock: { at: number }) => Promise.resolve(clock.at),
      stageStop: () => Promise.resolve({ shown: 0, skipped: 0, worstDelay: 0 }),
    },
    end: () => undefined,
    onBreakdown: (listener: () => void) => mockFake.breakdowns.push(listener),
  }),
}));

jest.mock('./sound-output', () => ({
  SoundOutput: class {
    start = (seconds: number, length: number) => {
      mockFake.started.push([seconds, length]);
      return Promise.resolve(0);
    };
    stop = () => undefined;
    refresh = () => undefined;
    startWallTime = () => 0;
    close = () => Promise.resolve();
  },
}));

const map = {
  sourceRate: makeRate(24),
  outputRate: makeRate(24),
  sourceFrames: 100,
  start: 0,
  spans: [constantSpan(1, 100)],
};

function openStage() {
  const [frames, faults]: [number[], string[]] = [[], []];
  mockFake.breakdowns = [];
  const canvas = { transferControlToOffscreen: () => ({}) } as unknown as HTMLCanvasElement;
  const stage = new Stage(canvas, {
    frame: (frame) => frames.push(frame),
    playing: () => undefined,
    fault: (message) => faults.push(message),
    made: () => undefined,
    ready: () => undefined,
    draft: () => undefined,
    broken: () => faults.push('broken'),
  });
  stage.setProgram(mapProgram(map, 'source'), {});
  return { stage, frames, faults, drawn: (frame: number) => mockFake.events!.frame(frame) };
}

it('at rest, a picture asked for before a jump does not move the playhead back', async () => {
  const { stage, frames, drawn } = openStage();
  await stage.seek(48);
  drawn(0);
  expect(frames).toEqual([]);
  drawn(48);
  expect(frames).toEqual([48]);
});

it('while playing every frame is told; after a pause only the one it rests on', async () => {
  const { stage, frames, drawn } = openStage();
  await stage.play(10, null);
  drawn(10);
  drawn(11);
  await stage.pause();
  drawn(12);
  drawn(11);
  expect(frames).toEqual([10, 11, 11, 11]);
  expect(mockFake.shown.at(-1)).toBe(11);
});

it('a jump while playing rests on the frame jumped to, never on the one left', async () => {
  const { stage, frames, drawn } = openStage();
  await stage.play(10, null);
  drawn(20);
  const sought = stage.seek(60);
  drawn(21);
  await sought;
  expect(frames).toEqual([20, 60]);
  expect(mockFake.shown.at(-1)).toBe(60);
});

it('the sound is told what is heard when play begins and while it lasts, not at every drag', async () => {
  const { stage } = openStage();
  mockFake.heard = [];
  const sources = {};
  const program = (frames: number): Program => mapProgram({ ...map, spans: [constantSpan(1, frames)] }, 'source');
  for (const frames of [90, 80, 70]) stage.setProgram(program(frames), sources);
  expect(mockFake.heard).toEqual([]);
  await stage.play(0, null);
  stage.setProgram(program(60), sources);
  await stage.pause();
  stage.setProgram(program(50), sources);
  expect(mockFake.heard).toEqual([
    [70, true],
    [60, false],
  ]);
  await stage.close();
});

it('is heard at the speed it is shuttled at, as far as there is something to be heard', async () => {
  const { stage } = openStage();
  mockFake.started = [];
  await stage.play(24, null, 2);
  await stage.play(24, null, -0.5);
  await stage.play(24, null, 1);
  await stage.pause();
  // 100 frames at 24 a second: 76 of them twice as fast, the 24 before at half, and all as they are.
  const rounded = mockFake.started.map((seconds) => seconds.map((value) => Number(value.toFixed(6))));
  expect(rounded).toEqual([
    [0, 1.583333],
    [0, 2],
    [1, 4.166667],
  ]);
});

describe('a worker that breaks down', () => {
  it('under the sound is told, and another makes what is heard the next time', async () => {
    const { stage, faults } = openStage();
    await stage.play(0, null);
    mockFake.heard = [];
    mockFake.breakdowns[1]!();
    expect(faults).toEqual(['The sound crashed and was stopped. Play again.']);
    await stage.play(0, null);
    // The new one knows nothing yet.
    expect(mockFake.heard).toEqual([[100, true]]);
    for (const more of [2, 3, 4]) mockFake.breakdowns[more]!();
    expect(faults.at(-1)).toContain('Reload the page');
    expect(mockFake.breakdowns).toHaveLength(5);
    await stage.close();
  });

  it('under the pictures is told while it plays; a stage that is closed says nothing any more', async () => {
    const { stage, faults } = openStage();
    await stage.play(0, null);
    mockFake.breakdowns[0]!();
    expect(faults).toEqual(['broken']);
    await stage.close();
    for (const breakdown of mockFake.breakdowns) breakdown();
    expect(faults).toEqual(['broken']);
  });
});
