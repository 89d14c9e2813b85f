import { addSource, newProject } from '@hastig/core';
import { facts, storedProject } from '../../test/project';
import { uploadFile, cancelUpload } from './upload-file';
import { opened } from './project-slice';
import { makeStore } from './store';

/** Stands for the engine, the way to the server, and the server. */
const mockWorld = {
  refuses: null as string | null,
  cancelled: 0,
  progress: (_sent: number): void => undefined,
  finish: (_uploadId: string): void => undefined,
  fail: (_error: Error): void => undefined,
};

jest.mock('@hastig/engine', () => ({
  inspectFile: async () => {
    await Promise.resolve();
    if (mockWorld.refuses) throw new Error(mockWorld.refuses);
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
  api: { finishUpload: () => Promise.resolve({ sha256: 'b'.repeat(64), facts: mockFacts() }) },
}));
const mockFacts = () => facts;

const file = { name: 'roll.mp4', size: 1000 } as File;
const settled = async (): Promise<void> => {
  for (let turn = 0; turn < 30; turn++) await Promise.resolve();
};

function openStore() {
  const { store } = makeStore();
  store.dispatch(opened({ project: storedProject() }));
  return store;
}

beforeEach(() => Object.assign(mockWorld, { refuses: null, cancelled: 0 }));

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
  expect(store.getState().uploads).toMatchObject([{ state: 'failed', fault: 'The file is empty.' }]);
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
