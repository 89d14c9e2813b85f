import { addSource, newProject } from '@hastig/core';
import { facts, storedProject } from '../../test/project';
import { cancelUpload, convertFile, uploadFile } from './upload-file';
import { jobsTold } from './jobs-slice';
import type { ServerJob } from '@hastig/contract';
import { opened } from './project-slice';
import { makeStore } from './store';

/** Stands for the engine, the way to the server, and the server. */
const mockWorld = {
  refuses: null as string | null,
  kind: 'Error',
  /** What becomes of a conversion, once there is one. */
  job: { id: 'job', state: 'running', done: 40, total: 100, message: null as string | null },
  calls: [] as string[],
  cancelled: 0,
  progress: (_sent: number): void => undefined,
  finish: (_uploadId: string): void => undefined,
  fail: (_error: Error): void => undefined,
};

jest.mock('@hastig/engine', () => ({
  inspectFile: async () => {
    await Promise.resolve();
    if (mockWorld.refuses) throw Object.assign(new Error(mockWorld.refuses), { name: mockWorld.kind });
  },
}));
jest.mock('./send-file', () => ({
  sendFile: (_file: File, progress: (sent: number) => void) => {
    mockWorld.progress = progress;
    const done = new Promise<string>((resolve, reject) => Object.assign(mockWorld, { finish: resolve, fail: reject }));
    return {
      done,
      cancel: () => {
        mockWorld.cancelled++;
        mockWorld.fail(new Error('cancelled'));
      },
    };
  },
}));
jest.mock('./api', () => ({
  api: {
    finishUpload: () => Promise.resolve({ sha256: 'b'.repeat(64), facts: mockFacts() }),
    addJob: ({ convert }: { convert: { uploadId: string } }) => {
      mockWorld.calls.push(`convert ${convert.uploadId}`);
      return Promise.resolve(mockWorld.job);
    },
    listJobs: () => Promise.resolve([{ ...mockWorld.job }]),
    jobMedia: (id: string) => {
      mockWorld.calls.push(`media ${id}`);
      return Promise.resolve({ sha256: 'c'.repeat(64), facts: mockFacts() });
    },
    changeJob: (id: string) => Promise.resolve(void mockWorld.calls.push(`cancel ${id}`)),
    removeJob: (id: string) => Promise.resolve(void mockWorld.calls.push(`remove ${id}`)),
  },
}));
const mockFacts = () => facts;

const file = { name: 'roll.mp4', size: 1000, type: 'video/mp4' } as File;

// The list of jobs is told by the server; here by hand.
Object.assign(globalThis, { EventSource: class { close = jest.fn(); } }); // prettier-ignore
const settled = async (): Promise<void> => {
  for (let turn = 0; turn < 30; turn++) await Promise.resolve();
};

function openStore() {
  const { store } = makeStore();
  store.dispatch(opened({ project: storedProject() }));
  return store;
}

beforeEach(() => Object.assign(mockWorld, { refuses: null, kind: 'Error', cancelled: 0, calls: [] }));

it('brings a file to the server, its row telling how far it is', async () => {
  const store = openStore();
  const stored = jest.fn();
  const done = store.dispatch(uploadFile(file, stored, 'source'));
  expect(store.getState().uploads).toMatchObject([{ state: 'checking', name: 'roll.mp4', replaces: 'source' }]);
  await settled();
  mockWorld.progress(400);
  expect(store.getState().uploads).toMatchObject([{ state: 'sending', sent: 400, bytes: 1000 }]);
  mockWorld.finish('upload');
  await done;
  expect(stored).toHaveBeenCalledWith({ sha256: 'b'.repeat(64), facts });
  expect(store.getState().uploads).toEqual([]);
});

it('keeps the reason of a file that is refused until it is dismissed, and sends nothing', async () => {
  const store = openStore();
  mockWorld.refuses = 'The file is empty.';
  const stored = jest.fn();
  await store.dispatch(uploadFile(file, stored));
  expect(store.getState().uploads).toMatchObject([
    { state: 'failed', fault: 'The file is empty.', convertible: false },
  ]);
  store.dispatch(cancelUpload(store.getState().uploads[0]!.id));
  expect(store.getState().uploads).toEqual([]);
  expect(mockWorld.cancelled).toBe(0);
  expect(stored).not.toHaveBeenCalled();
});

it('is called off on its way, and before it is', async () => {
  const store = openStore();
  const stored = jest.fn();
  const sending = store.dispatch(uploadFile(file, stored));
  await settled();
  store.dispatch(cancelUpload(store.getState().uploads[0]!.id));
  await sending;
  expect(mockWorld.cancelled).toBe(1);
  const checking = store.dispatch(uploadFile(file, stored));
  store.dispatch(cancelUpload(store.getState().uploads[0]!.id));
  await checking;
  expect(mockWorld.cancelled).toBe(1);
  expect(store.getState().uploads).toEqual([]);
  expect(stored).not.toHaveBeenCalled();
});

it('changes nothing in another project that was opened meanwhile', async () => {
  const store = openStore();
  const stored = jest.fn();
  const done = store.dispatch(uploadFile(file, stored));
  await settled();
  const document = addSource(newProject('Other'), { id: 's', name: 's', sha256: 'c'.repeat(64), facts }, 'c');
  store.dispatch(opened({ project: { ...storedProject(), id: 'other', document } }));
  mockWorld.finish('upload');
  await done;
  expect(stored).not.toHaveBeenCalled();
});

describe('a file that this browser can’t decode', () => {
  const told = (store: ReturnType<typeof openStore>, change: object): void =>
    void store.dispatch(jobsTold([{ ...mockWorld.job, ...change } as unknown as ServerJob]));

  /** One that was refused and is being converted. */
  async function converting(stored: jest.Mock) {
    const store = openStore();
    Object.assign(mockWorld, { refuses: 'This browser can’t decode HEVC.', kind: 'RefusedMedia' });
    await store.dispatch(uploadFile(file, stored));
    expect(store.getState().uploads).toMatchObject([{ state: 'failed', convertible: true }]);
    const done = store.dispatch(convertFile(store.getState().uploads[0]!.id));
    await settled();
    mockWorld.finish('upload');
    await settled();
    expect(store.getState().uploads).toMatchObject([{ state: 'converting', jobId: 'job', sent: 400, fault: null }]);
    expect(mockWorld.calls).toEqual(['convert upload']);
    return { store, done };
  }

  it('is converted where one wishes, and what comes of it is brought in', async () => {
    const stored = jest.fn();
    const { store, done } = await converting(stored);
    told(store, { state: 'done' });
    await done;
    expect(stored).toHaveBeenCalledWith({ sha256: 'c'.repeat(64), facts });
    expect(store.getState().uploads).toEqual([]);
  });

  it('is told why it failed, and not offered again', async () => {
    const { store, done } = await converting(jest.fn());
    told(store, { state: 'failed', message: 'The file is damaged.' });
    await done;
    expect(store.getState().uploads).toMatchObject([
      { state: 'failed', fault: 'The file is damaged.', convertible: false },
    ]);
    // It stays with its log, and can be started again.
    expect(mockWorld.calls).toEqual(['convert upload']);
  });

  it('is left where it is called off: nothing stays', async () => {
    const stored = jest.fn();
    const { store, done } = await converting(stored);
    store.dispatch(cancelUpload(store.getState().uploads[0]!.id));
    await done;
    expect(stored).not.toHaveBeenCalled();
    expect([store.getState().uploads, mockWorld.calls]).toEqual([[], ['convert upload', 'cancel job', 'remove job']]);
  });

  it('is not offered where it is a still that is damaged', async () => {
    const store = openStore();
    Object.assign(mockWorld, { refuses: 'The picture is damaged.', kind: 'RefusedMedia' });
    await store.dispatch(uploadFile({ ...file, type: 'image/png', name: 'a.png' }, jest.fn()));
    await store.dispatch(uploadFile({ ...file, type: 'image/gif', name: 'a.gif' }, jest.fn()));
    expect(store.getState().uploads.map(({ convertible }) => convertible)).toEqual([false, true]);
  });
});
