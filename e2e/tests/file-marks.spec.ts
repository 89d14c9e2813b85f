import { execFile } from 'node:child_process';
import { readFile } from 'node:fs/promises';
import { join } from 'node:path';
import { promisify } from 'node:util';
import { constantSpan, formatTimecode, frameCount, makeRate, type FileMarks } from '@hastig/core';
import { createFile, MP4BoxBuffer } from 'mp4box';
import { parseFile } from 'music-metadata';
import { expect, makeDemo, test, typeReadout } from '../support/app';
import { demoClip, renderMapAs, scratch } from '../support/files';
import { hasFramework } from '../support/framework';
import { storeDocument } from '../support/timeline';

// Read by readers that are not ours: GStreamer; mp4box and music-metadata for what that does not tell.
const run = promisify(execFile);

/** Where a chapter begins, in seconds, and its name. */
type Told = [number, string];

/** Chapters as the framework tells them. */
async function frameworkChapters(file: string): Promise<Told[]> {
  const { stdout } = await run('gst-discoverer-1.0', ['-v', '--toc', file], { maxBuffer: 2 ** 24 });
  const all = stdout.matchAll(/(?:chapter|track): start: (\d+):(\d+):([\d.]+).*\n\s+Tags:\s*\n\s+title: (.*)/g);
  return [...all].map((found) => {
    const [, hours, minutes, seconds, name] = found;
    return [Number(hours) * 3600 + Number(minutes) * 60 + Number(seconds), name!];
  });
}

interface Movie {
  chapters: Told[];
  timecode: { frame: number; drop: boolean; scale: number; each: number; base: number } | undefined;
}

/** Chapters and start timecode of MP4, MOV and M4A: what the first track refers to. */
async function movieMarks(file: string): Promise<Movie> {
  const bytes = await readFile(file);
  const iso = createFile(true);
  iso.appendBuffer(MP4BoxBuffer.fromArrayBuffer(new Uint8Array(bytes).buffer, 0));
  iso.flush();
  const info = iso.getInfo();
  const dataOf = (id: number) => {
    const track = iso.getTrackById(id);
    return track.samples.map(({ cts, timescale, offset, size }) => ({
      seconds: cts / timescale,
      data: bytes.subarray(offset, offset + size),
    }));
  };
  const referred = (type: string): number | undefined => {
    const found = info.tracks[0]!.references.find((one) => one.type === type);
    return found && Number(Object.values(found.track_ids)[0]);
  };
  const [chapters, timecode] = [referred('chap'), referred('tmcd')];
  // The entry that says how frames are counted (QuickTime File Format, “Timecode Sample Description”).
  const entry = bytes.indexOf('tmcd', bytes.indexOf('stsd', bytes.indexOf('tmcd', bytes.indexOf('hdlr', bytes.indexOf('Timecode') - 60)))); // prettier-ignore
  return {
    chapters: chapters === undefined ? [] : dataOf(chapters).map(({ seconds, data }) => [seconds, data.toString('utf8', 2, 2 + data.readUInt16BE(0))]), // prettier-ignore
    timecode:
      timecode === undefined
        ? undefined
        : {
            frame: dataOf(timecode)[0]!.data.readUInt32BE(0),
            drop: (bytes.readUInt32BE(entry + 16) & 1) === 1,
            scale: bytes.readUInt32BE(entry + 20),
            each: bytes.readUInt32BE(entry + 24),
            base: bytes[entry + 28]!,
          },
  };
}

const rate = makeRate(24);
const map = { sourceRate: rate, outputRate: rate, sourceFrames: 144, start: 60, spans: [constantSpan(1, 36)] };
const title = 'Marble film';
const chapters = [
  { from: 0, to: 12, name: title },
  { from: 12, to: 24, name: 'Second bounce' },
  { from: 24, to: 36, name: 'Landing – 3 %' },
];
const told: Told[] = chapters.map(({ from, name }) => [from / 24, name]);
const marks: FileMarks = {
  rate,
  frames: frameCount(map),
  chapters,
  timecode: { frame: 86_400, rate, dropFrame: false },
};

test('MKV, WebM and WAV have chapters where markers are', async () => {
  test.skip(!hasFramework, 'needs GStreamer');
  for (const ending of ['mkv', 'webm', 'wav']) {
    const file = await renderMapAs(`film.${ending}`, demoClip('drop'), map, { title, marks });
    expect(await frameworkChapters(file), ending).toEqual(told);
    const { native } = await parseFile(file);
    if (ending !== 'wav') expect(native.matroska).toContainEqual({ id: 'album:TIMECODE', value: '01:00:00:00' });
  }
});

test('MP4, MOV and M4A have them as a track that the first one refers to, and a start timecode', async () => {
  for (const ending of ['mp4', 'mov', 'm4a']) {
    const file = await renderMapAs(`film.${ending}`, demoClip('drop'), map, { title, marks });
    const found = await movieMarks(file);
    expect(found.chapters, ending).toEqual(told);
    if (ending === 'm4a') continue;
    expect(found.timecode, ending).toEqual({ frame: 86_400, drop: false, scale: 24, each: 1, base: 24 });
    // What has no chapters is as it was, and played as it was.
    if (hasFramework) expect((await run('gst-discoverer-1.0', [file])).stdout).toMatch(/video #1[^]*audio #2/);
  }
  const dropped = makeRate(30_000, 1001);
  const timecode = { frame: 107_892, rate: dropped, dropFrame: true };
  const counted = { ...map, outputRate: dropped };
  const file = await renderMapAs('film.mov', demoClip('drop'), counted, { marks: { ...marks, rate: dropped, chapters: [], timecode } }); // prettier-ignore
  const found = await movieMarks(file);
  expect(found).toEqual({
    chapters: [],
    timecode: { frame: 107_892, drop: true, scale: 30_000, each: 1001, base: 30 },
  });
  expect(formatTimecode(found.timecode!.frame, dropped)).toBe('01:00:00;00');
});

test('MP3, FLAC and Ogg have them in their tags', async () => {
  for (const ending of ['mp3', 'flac', 'ogg']) {
    const file = await renderMapAs(`film.${ending}`, demoClip('drop'), map, { title, marks });
    const { common, format, native } = await parseFile(file, { includeChapters: true });
    expect(common.title, ending).toBe(title);
    if (ending === 'mp3') expect(format.chapters?.map(({ start, title: name }) => [start, name])).toEqual(told);
    else
      expect(native.vorbis).toEqual(
        expect.arrayContaining([
          { id: 'CHAPTER002', value: '00:00:00.500' },
          { id: 'CHAPTER002NAME', value: 'Second bounce' },
        ]),
      );
  }
});

test('a film’s markers and start timecode go into its file, of the stretch that is rendered', async ({ page, app }) => {
  const { document } = await makeDemo(app);
  const id = await storeDocument(app, {
    ...document,
    sequence: {
      ...document.sequence,
      startFrame: 86_400,
      markers: [
        { id: 'a', at: 60, name: 'First bounce', tone: 'oak' },
        { id: 'b', at: 66, name: 'beat', tone: 'moss', kind: 'beat' },
        { id: 'c', at: 200, name: 'later', tone: 'oak' },
      ],
    },
  });
  await page.goto(`${app.address}/project/${id}/timeline`);
  await typeReadout(page, 'Output', '01:00:02:00');
  await page.getByRole('button', { name: 'Mark in' }).click();
  await typeReadout(page, 'Output', '01:00:02:23');
  await page.getByRole('button', { name: 'Mark out' }).click();
  await page.getByRole('link', { name: 'Output', exact: true }).click();
  const choose = (group: string, option: string): Promise<void> =>
    page
      .getByRole('radiogroup', { name: group, exact: true })
      .getByRole('radio', { name: option, exact: true })
      .click();
  const render = async (name: string): Promise<string> => {
    await page.getByRole('textbox', { name: 'File name' }).fill(name);
    await page.getByRole('button', { name: 'Render', exact: true }).click();
    const download = page.waitForEvent('download');
    await page.getByRole('button', { name: `Download ${name}.mp4` }).click();
    const file = join(await scratch(), `${name}.mp4`);
    await (await download).saveAs(file);
    return file;
  };
  await choose('Range', 'In to out');
  await choose('Frame size', '640 × 360');
  const { chapters: found, timecode } = await movieMarks(await render('by hand'));
  expect(found).toEqual([
    [0, document.name],
    [0.5, 'First bounce'],
  ]);
  expect(timecode).toMatchObject({ frame: 86_448, base: 24 });
  await choose('Settings', 'All');
  await choose('Chapters', 'All markers');
  expect((await movieMarks(await render('all'))).chapters.map(([, name]) => name)).toEqual([document.name, 'First bounce', 'beat']); // prettier-ignore
});
