import { decoderOf } from './decoder-id';
import { SourcePool } from './source-pool';
import type { MediaLocation } from './location';

/** Stands for opened sources: what was opened, closed, rested and announced, in order. */
const mockLog: string[] = [];
const mockBroken = new Set<string>();

jest.mock('./source', () => ({
  openSource: async (location: { url: string }) => {
    mockLog.push(`open ${location.url}`);
    await Promise.resolve();
    if (mockBroken.has(location.url)) throw new Error(`${location.url} cannot be read`);
    return {
      location,
      frames: {
        prefetch: (frames: number[], direction: number) =>
          mockLog.push(`prefetch ${location.url} ${frames.join(',')} ${direction}`),
      },
      take: ({ fields }: MediaLocation) => mockLog.push(`take ${location.url} ${fields?.use ?? 'as stored'}`),
      fitTo: () => undefined,
      rest: () => mockLog.push(`rest ${location.url}`),
      close: async () => {
        await Promise.resolve();
        mockLog.push(`close ${location.url}`);
      },
    };
  },
}));

const at = (url: string, more: Partial<MediaLocation> = {}): MediaLocation => ({ url, bytes: 1, ...more });
const settled = async (): Promise<void> => {
  for (let turn = 0; turn < 30; turn++) await Promise.resolve();
};

beforeEach(() => {
  mockLog.length = 0;
  mockBroken.clear();
});

describe('the sources of a program', () => {
  it('are opened when they are first wanted, and once', async () => {
    const pool = new SourcePool();
    await pool.locate({ a: at('a'), b: at('b') });
    expect(pool.ready('a')).toBeUndefined();
    const [one, two] = await Promise.all([pool.get('a'), pool.get('a')]);
    expect(one).toBe(two);
    await settled();
    expect(pool.ready('a')).toBe(one);
    expect(mockLog).toEqual(['open a']);
    await pool.close();
    expect(mockLog).toEqual(['open a', 'close a']);
  });

  it('are told which frames come next; those that are not wanted let go of theirs', async () => {
    const pool = new SourcePool();
    await pool.locate({ a: at('a'), b: at('b') });
    await Promise.all([pool.get('a'), pool.get('b')]);
    await settled();
    mockLog.length = 0;
    pool.prefetch(new Map([['a', [9, 8, 7]]]));
    expect(mockLog).toEqual(['prefetch a 9,8,7 -1', 'rest b']);
    await pool.close();
  });

  it('are opened ahead when they are announced', async () => {
    const pool = new SourcePool();
    await pool.locate({ a: at('a') });
    pool.prefetch(new Map([['a', [0, 1]]]));
    await settled();
    expect(pool.ready('a')).toBeDefined();
    await pool.close();
  });

  it('stay open when only the order of their fields changes, and are opened anew when frames are counted otherwise', async () => {
    const pool = new SourcePool();
    await pool.locate({ a: at('a', { fields: { use: 'first', first: 'top' } }) });
    const before = await pool.get('a');
    await pool.locate({ a: at('a', { fields: { use: 'woven', first: 'top' } }) });
    await settled();
    expect(await pool.get('a')).toBe(before);
    expect(mockLog).toEqual(['open a', 'take a woven']);
    await pool.locate({ a: at('a', { fields: { use: 'both', first: 'top' } }) });
    expect(mockLog.at(-1)).toBe('close a');
    expect(await pool.get('a')).not.toBe(before);
    await pool.close();
  });

  it('are closed when their file moves or they are gone', async () => {
    const pool = new SourcePool();
    await pool.locate({ a: at('a'), b: at('b') });
    await Promise.all([pool.get('a'), pool.get('b')]);
    await pool.locate({ a: at('other') });
    expect(mockLog.slice(2).sort()).toEqual(['close a', 'close b']);
    await pool.get('a');
    expect(mockLog.at(-1)).toBe('open other');
    await expect(pool.get('b')).rejects.toThrow('Source b has no known file.');
    await pool.close();
  });

  it('are tried again after one could not be opened', async () => {
    const pool = new SourcePool();
    await pool.locate({ a: at('a') });
    mockBroken.add('a');
    await expect(pool.get('a')).rejects.toThrow('a cannot be read');
    mockBroken.clear();
    await expect(pool.get('a')).resolves.toBeDefined();
    await pool.close();
  });

  it('are kept open a dozen at a time, those used last', async () => {
    const pool = new SourcePool();
    const ids = Array.from({ length: 13 }, (_, n) => `s${n}`);
    await pool.locate(Object.fromEntries(ids.map((id) => [id, at(id)])));
    for (const id of ids.slice(0, 12)) await pool.get(id);
    // Used again, so that the second is the one that goes.
    await pool.get('s0');
    await pool.get('s12');
    await settled();
    expect(mockLog.filter((entry) => entry.startsWith('close'))).toEqual(['close s1']);
    await pool.close();
  });

  it('are opened once more for a second place, and close with the source', async () => {
    const pool = new SourcePool();
    await pool.locate({ a: at('a') });
    await pool.get('a');
    await pool.get(decoderOf('a', 1));
    expect(mockLog).toEqual(['open a', 'open a']);
    await pool.locate({});
    expect(mockLog.slice(2)).toEqual(['close a', 'close a']);
  });
});
