import { makeRate, type FileMarks } from '@hastig/core';
import type { StreamTargetChunk } from 'mediabunny';
import { MarkedFile, markPackets } from './marked';

const marks: FileMarks = {
  ...{ rate: makeRate(24), frames: 48 },
  chapters: [
    { from: 0, to: 24, name: 'one' },
    { from: 24, to: 48, name: 'two' },
  ],
};

/** What is written into a file, and how it ends. */
function file(fails = Infinity) {
  const bytes = new Uint8Array(4096);
  const told = { writes: 0, closed: false, aborted: false };
  const writable = new WritableStream<StreamTargetChunk>({
    write: ({ data, position }) => {
      if (++told.writes > fails) throw new Error('The disk is full.');
      bytes.set(data, position);
    },
    close: () => void (told.closed = true),
    abort: () => void (told.aborted = true),
  });
  return { bytes, told, writable };
}

const text = (bytes: Uint8Array): string => new TextDecoder('latin1').decode(bytes);

async function written(job: ConstructorParameters<typeof MarkedFile>[0], content: string) {
  const under = file();
  let end = 0;
  const marked = new MarkedFile(job, under.writable, (now) => (end = now));
  const writer = marked.writable.getWriter();
  await writer.write({ type: 'write', data: new TextEncoder().encode(content), position: 0 });
  await writer.close();
  return { content: text(under.bytes.subarray(0, end)), tags: marked.tags, told: under.told };
}

it('MP3 begins with its chapters, and all that is written comes after them', async () => {
  const { content, tags, told } = await written({ format: 'mp3', title: 'film', marks }, 'sound');
  expect(content.startsWith('ID3')).toBe(true);
  expect(content.endsWith('sound')).toBe(true);
  // Its title is in that tag, not in another one.
  expect([tags, content.split('TIT2').length, told.closed]).toEqual([{}, 1 + 3, true]);
});

it('what has neither chapters nor timecode is written as it comes', async () => {
  const bare = { ...marks, chapters: [] };
  for (const format of ['mp3', 'wav', 'mkv', 'mp4', 'ogg'] as const) {
    const { content, tags } = await written({ format, title: 'film', marks: bare }, 'as it is');
    expect([content, tags]).toEqual(['as it is', { title: 'film' }]);
  }
  expect([markPackets({ format: 'mkv', marks }), markPackets({ format: 'mp4', marks }) > 0]).toEqual([0, true]);
});

it('a file that can’t be written says so to who writes it, and is not closed as if it were whole', async () => {
  const under = file(1);
  const writer = new MarkedFile({ format: 'wav', marks }, under.writable, () => undefined).writable.getWriter();
  writer.closed.catch(() => undefined);
  await writer.write({ type: 'write', data: new TextEncoder().encode('RIFF'.padEnd(28)), position: 0 });
  // Its chapters find no room.
  await expect(writer.close()).rejects.toThrow('The disk is full.');
  expect(under.told.closed).toBe(false);
});
