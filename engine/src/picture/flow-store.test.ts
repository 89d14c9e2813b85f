import { FlowStore, flowName, forgetFlows } from './flow-store';

/** A folder of the browser's private storage, in memory; time goes on by one with each writing. */
function fakeStorage(room = Infinity) {
  const files = new Map<string, { bytes: Uint8Array; used: number }>();
  let now = 0;
  const handleOf = (name: string) => ({
    kind: 'file',
    getFile: () => Promise.resolve({ size: files.get(name)!.bytes.length, lastModified: files.get(name)!.used }),
    createSyncAccessHandle: () =>
      Promise.resolve({
        getSize: () => files.get(name)!.bytes.length,
        read: (into: Uint8Array) => into.set(files.get(name)!.bytes),
        write: (data: Uint8Array) => {
          if (data.length > room) throw new DOMException('full', 'QuotaExceededError');
          const file = files.get(name)!;
          const bytes = new Uint8Array(Math.max(file.bytes.length, data.length));
          bytes.set(file.bytes);
          bytes.set(data);
          files.set(name, { bytes, used: ++now });
        },
        close: () => undefined,
      }),
  });
  const folder = {
    getFileHandle: (name: string, { create = false } = {}) => {
      if (!files.has(name) && !create) return Promise.reject(new DOMException('none', 'NotFoundError'));
      if (!files.has(name)) files.set(name, { bytes: new Uint8Array(), used: ++now });
      return Promise.resolve(handleOf(name));
    },
    removeEntry: (name: string) => Promise.resolve(void files.delete(name)),
    keys: async function* () {
      for (const name of [...files.keys()]) yield await Promise.resolve(name);
    },
    entries: async function* () {
      for (const name of [...files.keys()]) yield await Promise.resolve([name, handleOf(name)] as const);
    },
  };
  const getDirectory = () => Promise.resolve({ getDirectoryHandle: () => Promise.resolve(folder) });
  Object.defineProperty(globalThis, 'navigator', { value: { storage: { getDirectory } }, configurable: true });
  return files;
}

const flow = (value: number, length = 10): Uint8Array<ArrayBuffer> => new Uint8Array(length).fill(value);

it('what was found is read again; what was not used for longest goes where there is too much', async () => {
  const files = fakeStorage();
  const store = new FlowStore(35);
  for (const [name, value] of [
    ['a', 1],
    ['b', 2],
    ['c', 3],
  ] as const)
    await store.write(name, flow(value));
  expect(await store.read('a')).toEqual(flow(1));
  await store.write('d', flow(4));
  await store.sweep();
  // Reading `a` was of use.
  expect([...files.keys()].sort()).toEqual(['a', 'c', 'd']);
  expect(await store.read('b')).toBeUndefined();
});

it('where there is no room, or no storage at all, nothing is kept and nothing fails', async () => {
  fakeStorage(5);
  const full = new FlowStore();
  await full.write('a', flow(1));
  expect(await full.read('a')).toHaveLength(0);
  Object.defineProperty(globalThis, 'navigator', { value: {}, configurable: true });
  const none = new FlowStore();
  await none.write('a', flow(1));
  expect(await none.read('a')).toBeUndefined();
  await none.sweep();
});

const [file, other] = ['a'.repeat(64), 'b'.repeat(64)];

it('names tell apart whatever a flow depends on', async () => {
  const names = await Promise.all([
    flowName(`${file} all`, [1, 2, 640, 360]),
    flowName(`${file} all`, [1, 3, 640, 360]),
    flowName(`${file} all`, [12, 640, 360]),
    flowName(`${file} 12`, [1, 2, 640, 360]),
    flowName(`${other} all`, [1, 2, 640, 360]),
  ]);
  expect(new Set(names).size).toBe(5);
  expect(await flowName(`${file} all`, [1, 2, 640, 360])).toBe(names[0]);
  const { crypto } = globalThis;
  Object.defineProperty(globalThis, 'crypto', { value: {}, configurable: true });
  expect(await flowName(file, [])).toBeUndefined();
  Object.defineProperty(globalThis, 'crypto', { value: crypto, configurable: true });
});

it('what was found of files that are gone is taken away', async () => {
  const files = fakeStorage();
  const store = new FlowStore();
  const names = await Promise.all([file, other].map(async (one) => (await flowName(`${one} all`, [0, 1]))!));
  for (const name of [...names, 'of-a-version-before']) await store.write(name, flow(1));
  await forgetFlows(new Set([other]));
  expect([...files.keys()]).toEqual([names[1]]);
  Object.defineProperty(globalThis, 'navigator', { value: {}, configurable: true });
  await forgetFlows(new Set());
});
