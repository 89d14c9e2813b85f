import { eases, constantSpan, cueSheetCsv, effectList, filmFrames, FrameMapCsv, keysCsv, KeysUnreadable, makeRate, mapOf, motionAt, programOf, rampSpan, readKeys, SEQUENCE, soundCues, TimingJson, withTiming } from '../..'; // prettier-ignore
import { atSpeed, clipOf, group, rowOf, withSound } from '../../../test/projects';
import Papa from 'papaparse';

const rows = (csv: string): Record<string, string>[] =>
  Papa.parse<Record<string, string>>(csv.trimEnd(), { header: true }).data;

/** A file as a writer makes it of all frames. */
function written<W extends { add(frame: never): void; text: string }>(
  writer: W,
  project: Parameters<typeof filmFrames>[0],
): string {
  // prettier-ignore
  for (const frame of filmFrames(project)) writer.add(frame as never);
  return writer.text;
}

// A clip at double speed, then one backwards at half.
const film = atSpeed(rowOf(20, 20), 'c0', 2);
const project = withTiming(film, 'c1', { ...mapOf(film, clipOf(film, 'c1')), start: 19, spans: [constantSpan(-0.5, 30)] }); // prettier-ignore

describe('every frame of a film', () => {
  it('is told as CSV: what is seen, where in its source, how fast', () => {
    const all = rows(written(new FrameMapCsv(project), project));
    expect(all).toHaveLength(40);
    expect(all[3]).toEqual({ frame: '3', timecode: '00:00:00:03', clip: 'shot 0', source: 'shot 0.mp4', source_frame: '6', position: '6', speed: '2' }); // prettier-ignore
    expect(all[13]).toMatchObject({
      clip: 'shot 1',
      source: 'shot 1.mp4',
      source_frame: '17',
      position: '17.5',
      speed: '-0.5',
    });
  });

  it('is told as JSON, in rows of numbers', () => {
    const file = JSON.parse(written(new TimingJson(project), project)) as Record<string, never[]>;
    expect(file).toMatchObject({ format: 'frame-timing', version: 1, rate: makeRate(30) });
    expect([file.source![13], file.clip![13], file.sourceFrame![13], file.position![13], file.speed![13]]).toEqual([1, 1, 17, 17.5, -0.5]); // prettier-ignore
  });

  it('is what the program shows, through groups at speeds of their own, and nothing in a gap', () => {
    const grouped = group(rowOf(20, 20), ['c1']);
    const clip = grouped.clips.find(({ of }) => of.kind === 'group')!;
    const slow = withTiming(grouped, clip.id, { ...mapOf(grouped, clip), spans: [constantSpan(0.5, 40)] });
    const program = programOf(slow, SEQUENCE);
    expect(motionAt(program, 31)).toEqual({ sourceId: 's1', clipId: clip.id, position: 5.5, frame: 5, speed: 0.5 });
    expect(motionAt(program, 60)).toBeUndefined();
  });

  it('keeps names from being formulas', () => {
    const named = { ...project, clips: project.clips.map((clip) => ({ ...clip, name: '=1+1' })) };
    expect(rows(written(new FrameMapCsv(named), named))[0]!.clip).toBe("'=1+1");
  });
});

describe('speed keys', () => {
  const curve = withTiming(project, 'c0', {
    ...mapOf(project, clipOf(project, 'c0')),
    start: 2.25,
    spans: [
      { ...constantSpan(1 / 3, 7), locked: true, jump: 1.25 },
      rampSpan(1 / 3, 2, 5, eases['ease-in-out']),
      { of: 'position', frames: 4, x: [0.25, 0.75], y: [0, 1, 2, 3], jump: -1.5 },
    ],
  });

  it('go out as CSV and come back as they were, to the last digit', () => {
    const back = readKeys(keysCsv(curve), project);
    // The other one was not changed.
    expect(back).toMatchObject({ clips: 1, notes: [] });
    expect(clipOf(back.project, 'c1')).toBe(clipOf(project, 'c1'));
    expect(readKeys(keysCsv(curve), curve)).toEqual({ project: curve, clips: 0, notes: [] });
    for (const id of ['c0', 'c1']) {
      const { pins: _, ...timing } = clipOf(curve, id).timing;
      expect(clipOf(back.project, id).timing).toEqual(timing);
    }
    expect(readKeys(`\uFEFF${keysCsv(curve, ['c0'])}`, project).clips).toBe(1);
  });

  it('go to the clip of their name where the id is unknown, and nowhere where that is not clear', () => {
    const csv = keysCsv(curve, ['c0']).replaceAll(/^c0,/gm, 'x,');
    expect(clipOf(readKeys(csv, project).project, 'c0').timing).toEqual(clipOf(curve, 'c0').timing);
    const twins = { ...project, clips: project.clips.map((clip) => ({ ...clip, name: 'shot 0' })) };
    expect(readKeys(csv, twins)).toMatchObject({ clips: 0, notes: ['More than one clip is called “shot 0”.'] });
    expect(readKeys(csv.replaceAll('x,shot 0', 'x,y'), project).notes).toEqual(['No clip “y” is here.']);
  });

  it.each([
    ['clip,frames\n', /columns: position, of/],
    [keysCsv(curve, ['c0']).replace(',speed,', ',pace,'), /row 2: “pace” is neither/],
    [keysCsv(curve, ['c0']).replace(/,7,/, ',seven,'), /row 2: frames “seven” isn’t a number/],
    [keysCsv(curve, ['c0']).replace(/,7,/, ',-7,'), /row 2: the keys of “shot 0” can’t be/],
  ])('that are wrong are told with their row', (csv, words) => {
    expect(() => readKeys(csv, project)).toThrow(KeysUnreadable);
    expect(() => readKeys(csv, project)).toThrow(words);
  });
});

it('a cue sheet tells of what is heard, where, from where, how fast and how loud', () => {
  const heard = withSound(project);
  const cues = soundCues(heard);
  expect(cues.map(({ clipId }) => clipId)).toEqual(['c0', 'c1']);
  const [first, second] = rows(cueSheetCsv(heard, new Map([['c1', { integrated: -18.26, truePeak: -3 }]])));
  expect(first).toMatchObject({ cue: '1', in: '00:00:00:00', out: '00:00:00:10', slowest: '2', loudness_lufs: '' });
  expect(second).toMatchObject({ in: '00:00:00:10', out: '00:00:01:10', duration: '00:00:01:00', source_in: '00:00:00:04', source_out: '00:00:00:19', slowest: '-0.5', loudness_lufs: '-18.3', peak_dbtp: '-3' }); // prettier-ignore
  const muted = { ...heard, clips: heard.clips.map((clip) => ({ ...clip, muted: true })) };
  expect(soundCues(muted)).toEqual([]);
  expect(soundCues(effectList.set(project, 'film', () => []))).toEqual([]);
});
