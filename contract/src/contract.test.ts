import { checkMapFile, checkProjectDocument, checkProjectPatch, describeErrors, migrateProject } from '.';

const map = {
  sourceRate: { num: 30, den: 1 },
  outputRate: { num: 30, den: 1 },
  sourceFrames: 150,
  start: 0,
  spans: [{ of: 'speed', frames: 24, x: [0.42, 0.58], y: [1, 1, 0.4, 0.4] }],
};
const span = (change: object) => ({ ...map, spans: [{ ...map.spans[0], ...change }] });

describe('the map file', () => {
  it('is taken as documented', () => {
    expect(checkMapFile(map).ok).toBe(true);
    expect(checkMapFile(span({ jump: -12.5 })).ok).toBe(true);
  });

  it.each([
    [{ ...map, sourceFrames: 0 }, 'sourceFrames must be >= 1'],
    [{ ...map, spans: [] }, 'spans must NOT have fewer than 1 items'],
    [{ ...map, outputRate: { num: 30 } }, 'outputRate/den is missing'],
    [{ ...map, outputRate: { num: 30, den: 1.001 } }, 'outputRate/den must be integer'],
    [span({ frames: -3 }), 'spans/0/frames must be > 0'],
    [span({ frames: Infinity }), 'spans/0/frames must be number'],
    [span({ x: [0.2, 1.5] }), 'spans/0/x/1 must be <= 1'],
    [span({ y: [1, 1, 1] }), 'spans/0/y must NOT have fewer than 4 items'],
    [span({ of: 'pace' }), 'spans/0/of must be one of ["speed","position"]'],
    [span({ speed: 2 }), 'spans/0/speed isn’t a known field'],
    [[], 'the file must be object'],
    [null, 'the file must be object'],
  ])('is refused with the field named: %#', (value, message) => {
    const checked = checkMapFile(value);
    expect(checked.ok ? '' : describeErrors(checked.errors)).toContain(message);
  });
});

describe('project documents', () => {
  const rate = { num: 24, den: 1 };
  const sequence = { rate, width: 1280, height: 720, sampleRate: 48_000, startFrame: 0, markers: [] };
  const document = {
    version: 9,
    name: 'Film',
    defaults: { length: 'ripple', arrivals: 'lay' },
    sequence: { ...sequence, tracks: [{ id: 'picture-1', kind: 'picture', name: 'Picture', items: [{ gap: 5 }] }] },
    sources: [],
    groups: [],
    clips: [],
  };

  it('of version 1, as saved a year ago, get a timeline: their clips in a row', () => {
    const timing = { start: 0, spans: [{ of: 'speed', frames: 30.2, x: [0.3, 0.7], y: [1, 1, 1, 1] }] };
    const video = { codec: 'avc', codecString: 'avc1', width: 1281, height: 720, rotation: 0, rate };
    const facts = {
      container: 'MP4',
      mime: 'video/mp4',
      bytes: 10,
      video: { ...video, frames: 30, constantRate: true, longestGroup: 30, seconds: 1.25 },
      audio: null,
    };
    const migrated = migrateProject({
      version: 1,
      name: 'Old film',
      sequence: { rate },
      sources: [{ id: 's', name: 's.mp4', sha256: '0'.repeat(64), facts }],
      clips: [
        { id: 'a', name: 'a', sourceId: 's', timing },
        { id: 'b', name: 'b', sourceId: 's', timing },
      ],
    });
    expect(migrated).toMatchObject({
      ok: true,
      value: {
        version: 9,
        sequence: { rate, width: 1282, tracks: [{ kind: 'picture', items: [{ clip: 'a' }, { clip: 'b' }] }] },
        clips: [
          { id: 'a', of: { kind: 'source', id: 's' }, timing, shown: { from: 0, frames: 31 }, length: 'ripple' },
          { id: 'b' },
        ],
      },
    });
    expect(migrateProject({ version: 1, name: 'Broken' }).ok).toBe(false);
  });

  it.each([2, 3, 4, 5, 6, 7])('of version %i, which knew less than this one, stay as they are', (version) => {
    expect(migrateProject({ ...document, version })).toEqual({ ok: true, value: document });
  });

  it('of this version are taken, newer ones refused with what to expect', () => {
    expect(migrateProject(document)).toMatchObject({ ok: true, value: document });
    expect(migrateProject({ ...document, version: 99 })).toMatchObject({
      ok: false,
      errors: [{ pointer: '/version', reason: expect.stringContaining('newer version of Hastig') }],
    });
    expect(migrateProject({ ...document, version: 'one' }).ok).toBe(false);
    expect(migrateProject(null).ok).toBe(false);
  });

  it('name the wrong field', () => {
    const checked = checkProjectDocument({
      ...document,
      clips: [{ id: 'a b', name: '', of: { kind: 'source', id: 'x' }, timing: { start: 0, spans: [] } }],
    });
    expect(checked.ok ? [] : checked.errors.map(({ pointer }) => pointer)).toEqual(
      expect.arrayContaining(['/clips/0/id', '/clips/0/name', '/clips/0/timing/spans']),
    );
  });

  it('are changed by operations that carry what they need', () => {
    expect(checkProjectPatch({ revision: 1, patch: [{ op: 'remove', path: '/clips/0' }] }).ok).toBe(true);
    expect(checkProjectPatch({ revision: 0, patch: [] }).ok).toBe(false);
  });
});
