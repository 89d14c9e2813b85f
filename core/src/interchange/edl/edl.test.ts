import type { ProjectDocument, Span } from '@hastig/contract';
import {
  addTrack,
  compile,
  constantSpan,
  EdlUnreadable,
  EdlUnwritable,
  makeRate,
  mapOf,
  moveClips,
  muteClip,
  newProject,
  positionAt,
  programOf,
  rampSpan,
  readEdl,
  SEQUENCE,
  trimClip,
  withSequenceRate,
  withTiming,
  writeEdl,
} from '../..';
import { clipOf, paced, rowOf, withSound } from '../../../test/projects';

const sized = (project: ProjectDocument): ProjectDocument => withSequenceRate(project, makeRate(25));
let count = 0;
const newId = (): string => `n${count++}`;
const eventsIn = (text: string): string[] => text.split('\n').filter((line) => /^\d/.test(line));

/** What each output frame of the sequence shows: a source, and a position of it. */
function shownIn(project: ProjectDocument): (readonly [source: string, position: number])[] {
  return programOf(project, SEQUENCE).tracks[0]!.items.flatMap((item) =>
    Array.from({ length: item.frames }, (_, n) => [item.of.id, positionAt(compile(item.map), item.at + n)] as const),
  );
}

describe('an edit decision list', () => {
  it('of cuts has an event for each, by the columns of the trade’s lists (SMPTE 258M; from memory)', () => {
    const project = muteClip(withSound({ ...rowOf(75, 50), name: 'Marble  film' }), 'c1', true);
    const { text, events, greatestError, notes } = writeEdl({
      ...project,
      sequence: { ...project.sequence, startFrame: 30 * 3600 },
    });
    expect(text.split('\n').slice(0, 8)).toEqual([
      'TITLE: Marble film',
      'FCM: NON-DROP FRAME',
      '',
      '001  SHOT0    B     C        00:00:00:00 00:00:02:15 01:00:00:00 01:00:02:15',
      '* FROM CLIP NAME: shot 0.mp4',
      '',
      '002  SHOT1    V     C        00:00:00:00 00:00:01:20 01:00:02:15 01:00:04:05',
      '* FROM CLIP NAME: shot 1.mp4',
    ]);
    expect({ events, greatestError, notes }).toEqual({ events: 2, greatestError: 0, notes: [] });
  });

  it('has a speed line for what does not play at real time: fast, a freeze, backwards', () => {
    const project = paced(rowOf(100), 'c0', constantSpan(2, 20), constantSpan(0, 5), constantSpan(-1, 10));
    const { text } = writeEdl(project);
    expect(eventsIn(text)).toEqual([
      '001  SHOT0    V     C        00:00:00:00 00:00:01:09 00:00:00:00 00:00:00:20',
      '002  SHOT0    V     C        00:00:01:10 00:00:01:11 00:00:00:20 00:00:00:25',
      '003  SHOT0    V     C        00:00:01:01 00:00:01:11 00:00:00:25 00:00:01:05',
    ]);
    expect(text.split('\n').filter((line) => line.startsWith('M2'))).toEqual([
      'M2   SHOT0     060.0                00:00:00:00',
      'M2   SHOT0     000.0                00:00:01:10',
      'M2   SHOT0    -030.0                00:00:01:10',
    ]);
  });

  it('cuts curves into pieces, tells the greatest error, and is read back within it', () => {
    const spans: Span[] = [rampSpan(1, 0.37, 40), constantSpan(0.37, 30), rampSpan(0.37, 2.2, 25)];
    const project = paced(sized(rowOf(200, 60)), 'c0', ...spans);
    const { text, greatestError, events } = writeEdl(project);
    expect(events).toBeGreaterThan(4);
    expect(greatestError).toBeGreaterThan(0);
    expect(greatestError).toBeLessThan(3);
    const read = readEdl(text, project, newId);
    expect(read.notes).toEqual([]);
    expect(read.project.clips).toHaveLength(2);
    const [before, after] = [shownIn(project), shownIn(read.project)];
    expect(after.map(([source]) => source)).toEqual(before.map(([source]) => source));
    const worst = Math.max(...after.map(([, position], n) => Math.abs(position - before[n]![1])));
    expect(worst).toBeLessThanOrEqual(greatestError + 1e-6);
    // What it says of the worst is no more than there is, but for half a frame of pieces and curve put together.
    expect(worst).toBeGreaterThan(greatestError - 1);
  });

  it('of a clip that leaps in its source is one clip again', () => {
    const project = paced(rowOf(100), 'c0', constantSpan(1, 20), { ...constantSpan(-1, 10), jump: 30 }, { ...constantSpan(1, 20), jump: 11 }); // prettier-ignore
    const { project: read } = readEdl(writeEdl(project).text, project, newId);
    expect(read.clips).toHaveLength(1);
    expect(shownIn(read)).toEqual(shownIn(project));
  });

  it('of sources of other rates counts their time', () => {
    const project = withTiming(rowOf(100), 'c0', {
      ...mapOf(rowOf(100), clipOf(rowOf(100), 'c0')),
      ...{ start: 15, spans: [constantSpan(1, 30)] },
    });
    const slow = { ...project, sources: project.sources.map((one) => ({ ...one, readAs: makeRate(15) })) };
    expect(eventsIn(writeEdl(slow).text)[0]).toContain('00:00:01:00');
  });

  it('keeps gaps, leaves out other tracks and says so', () => {
    const row = rowOf(30, 30, 30);
    const above = moveClips(addTrack(row, SEQUENCE, 'picture', 'upper'), ['c1'], 'upper', 0, 'leave');
    const { text, notes } = writeEdl(above);
    expect(eventsIn(text).map((line) => line.slice(-23))).toEqual([
      '00:00:00:00 00:00:01:00',
      '00:00:02:00 00:00:03:00',
    ]);
    expect(notes).toHaveLength(1);
    expect(notes[0]).toContain('one picture track');
    const { project } = readEdl(text, row, newId);
    expect(project.sequence.tracks[0]!.items).toEqual([{ clip: project.clips[0]!.id }, { gap: 30 }, { clip: project.clips[1]!.id }]); // prettier-ignore
  });

  it('names reels apart, in eight letters and digits', () => {
    const row = rowOf(10, 10, 10);
    const names = ['Große Kugelbahn.mp4', 'Grosse Kugelbahn 2.mp4', '！.mp4'];
    const project = { ...row, sources: row.sources.map((one, n) => ({ ...one, name: names[n]! })) };
    const reels = eventsIn(writeEdl(project).text).map((line) => line.slice(5, 13).trim());
    expect(new Set(reels).size).toBe(3);
    for (const reel of reels) expect(reel).toMatch(/^[A-Z0-9]{1,8}$/);
  });

  it('counts drop-frame timecode where the sequence does (SMPTE ST 12-1)', () => {
    const project = withSequenceRate(rowOf(4000), { num: 30000, den: 1001 });
    const { text } = writeEdl(project);
    expect(text).toContain('FCM: DROP FRAME');
    expect(eventsIn(text)[0]).toMatch(/00:00:00;00 00:02:13;\d\d$/);
    const { project: read } = readEdl(text, project, newId);
    expect(read.clips[0]!.shown.frames).toBe(clipOf(project, 'c0').shown.frames);
  });

  it('is refused where it can’t be written', () => {
    expect(() => writeEdl(newProject('x', makeRate(24)))).toThrow(EdlUnwritable);
    expect(() => writeEdl(withSequenceRate(rowOf(10), makeRate(120)))).toThrow('up to 99 frames');
  });
});

describe('a list of another program', () => {
  const list = (...lines: string[]): string => ['TITLE: any', 'FCM: NON-DROP FRAME', ...lines].join('\r\n');

  it('is read by names and reels, with dissolves as cuts, black as gaps, and what is missing told', () => {
    const project = rowOf(100, 100);
    const { project: read, notes } = readEdl(
      list(
        '001  SHOT0    V     C        00:00:01:00 00:00:02:00 10:00:00:00 10:00:01:00',
        '002  BL       V     C        00:00:00:00 00:00:00:15 10:00:01:00 10:00:01:15',
        '003  TAPE7    V     D    025 00:00:00:10 00:00:01:10 10:00:01:15 10:00:02:15',
        '* FROM CLIP NAME: SHOT 1.MP4',
        '004  NOWHERE  V     C        00:00:00:00 00:00:01:00 10:00:02:15 10:00:03:15',
        '005  SHOT0    A     C        00:00:00:00 00:00:01:00 10:00:00:00 10:00:01:00',
        '006  SHOT1    V     C        00:00:00:00 00:00:02:00 10:00:03:15 10:00:04:15',
        'M2   SHOT1           060.0                00:00:00:00',
      ),
      project,
      newId,
    );
    expect(shownIn(read)[0]).toEqual(['s0', 30]);
    expect(
      read.clips.map(({ of, shown, timing }) => [of.id, shown.frames, timing.start, timing.spans[0]!.y[0]]),
    ).toEqual([
      ['s0', 30, 30, 1],
      ['s1', 30, 10, 1],
      ['s1', 30, 0, 2],
    ]);
    expect(read.sequence.tracks[0]!.items.filter((item) => 'gap' in item)).toEqual([{ gap: 15 }, { gap: 30 }]);
    expect(notes.join(' ')).toMatch(/sound alone.*transition of event 003.*NOWHERE isn’t in the footage/);
  });

  it('that is none, or has nothing of what is here, is refused with the reason', () => {
    const project = rowOf(10);
    for (const text of ['', 'TITLE: x', '{"a": 1}', '\0\0'])
      expect(() => readEdl(text, project, newId)).toThrow(EdlUnreadable);
    const lost = list('001  GONE     V     C        00:00:01:00 00:00:02:00 10:00:00:00 10:00:01:00');
    expect(() => readEdl(lost, project, newId)).toThrow('GONE isn’t in the footage');
    const odd = list('001  SHOT0    V     C        00:00:01:99 00:00:02:00 10:00:00:00 10:00:01:00');
    expect(() => readEdl(odd, project, newId)).toThrow(EdlUnreadable);
  });

  it('trimmed before, comes back with what was shown', () => {
    const project = trimClip(rowOf(90), 'c0', 'start', 12, 'close');
    const { project: read } = readEdl(writeEdl(project).text, project, newId);
    expect(shownIn(read)[0]).toEqual(['s0', 12]);
  });
});
