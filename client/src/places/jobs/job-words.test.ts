import type { Machine, ServerJob } from '@hastig/contract';
import { jobWords, machineWords, noMachineWords } from './job-words';

const job: ServerJob = {
  ...{ id: 'j', kind: 'render', file: 'Film.mp4', projectId: 'p', project: 'Film', priority: 0, state: 'running' },
  ...{ madeAt: '', startedAt: null, endedAt: null, done: 240.4, total: 640, framesPerSecond: 8, form: null },
  ...{ parts: { done: 1, all: 6 }, machines: ['Desk', 'Laptop'], needs: 'H.264', message: null, bytes: null },
};

it('a job tells how far it is, how fast, and by which machines', () => {
  expect(jobWords(job)).toBe('240 of 640 frames · 8.0 fps · 50 s left · Desk, Laptop');
  expect(jobWords({ ...job, framesPerSecond: 0.5 })).toContain('13 min left');
  expect(jobWords({ ...job, framesPerSecond: 0.01 })).toContain('11.1 h left');
  expect(jobWords({ ...job, parts: { done: 5, all: 6 }, done: 640 })).toBe('Joining · Desk, Laptop');
  expect(jobWords({ ...job, state: 'waiting', needs: null })).toBe('Waiting for a machine');
  expect(jobWords({ ...job, state: 'waiting', needs: 'AV1' })).toBe('Waiting for a machine that encodes AV1');
  expect(jobWords({ ...job, state: 'paused' })).toBe('Paused · 240 of 640 frames');
  expect(jobWords({ ...job, state: 'done', bytes: 3_100_000 })).toBe('Ready · 3.1 MB');
  expect(jobWords({ ...job, state: 'failed', message: 'The disk is full.' })).toBe('Failed: The disk is full.');
  const conversion = { ...job, kind: 'convert' as const, done: 41.9, total: 100, framesPerSecond: 0, parts: { done: 0, all: 1 } }; // prettier-ignore
  expect(jobWords(conversion)).toBe('Converting, 41% · Desk, Laptop');
  expect(jobWords({ ...conversion, state: 'done' })).toBe('Converted');
});

const now = Date.parse('2026-01-02T03:04:05Z');
const machine: Machine = {
  ...{ id: 'm', name: 'Desk', scopes: ['render', 'convert'], madeAt: '', heardAt: '2026-01-02T03:04:00Z', file: null },
  facts: { cores: 2, codecs: ['H.264', 'VP9'], can: ['render', 'convert'] },
  framesPerSecond: 59.4,
};

it('a machine tells what it can, when it was heard, and how fast it was', () => {
  expect(machineWords(machine, now)).toBe('Ready · renders and converts · 2 cores · H.264, VP9 · 59 fps so far');
  expect(machineWords({ ...machine, file: 'Film.mp4' }, now)).toMatch(/^Working on Film\.mp4 · /);
  expect(machineWords({ ...machine, heardAt: '2026-01-02T02:04:05Z' }, now)).toMatch(/^Last seen 60 min ago · /);
  const none = { ...machine, heardAt: null, facts: null, framesPerSecond: null };
  expect(machineWords(none, now)).toBe('Never connected');
});

it('where nothing can render it is said what to do', () => {
  expect(noMachineWords(undefined, undefined, now)).toBeUndefined();
  expect(noMachineWords([machine], undefined, now)).toBeUndefined();
  expect(noMachineWords([], undefined, now)).toMatch(/^No machine is connected/);
  expect(noMachineWords([{ ...machine, heardAt: '2026-01-02T02:04:05Z' }], undefined, now)).toMatch(
    /^No machine is connected/,
  );
  const bare = { ...machine, facts: { cores: 2, codecs: [], can: ['convert' as const] } };
  expect(noMachineWords([bare], undefined, now)).toMatch(/Chromium is missing/);
  expect(noMachineWords([{ ...machine, scopes: ['convert'] }], undefined, now)).toBeDefined();
  expect(noMachineWords([machine], 'VP9', now)).toBeUndefined();
  expect(noMachineWords([machine], 'AV1', now)).toMatch(/^No connected machine encodes AV1\./);
});
