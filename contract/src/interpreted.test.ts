import { checkProjectDocument, MOST_FRAMES } from '.';
import { interpreted } from './interpreted';
import { projectDocumentSchema } from './schema/project';

// Without the ids of parts that stand in it more than once, as the checks have it.
const schema = JSON.parse(
  JSON.stringify(projectDocumentSchema, (key, value: unknown) => (key === '$id' ? undefined : value)),
) as object;
const check = interpreted(schema);

const clip = {
  ...{ id: 'c', name: 'clip', of: { kind: 'source', id: 's' }, length: 'ripple' },
  timing: { start: 0, spans: [{ of: 'speed', frames: 24, x: [0.42, 0.58], y: [1, 1, 0.4, 0.4] }] },
  shown: { from: 0, frames: 24 },
};
const document = {
  version: 9,
  name: 'Film 🎬',
  defaults: { length: 'ripple', arrivals: 'lay' },
  sequence: {
    ...{ rate: { num: 24, den: 1 }, width: 1280, height: 720, sampleRate: 48_000, startFrame: 0, markers: [] },
    tracks: [{ id: 'picture-1', kind: 'picture', name: 'Picture', items: [{ clip: 'c' }, { gap: 5 }] }],
  },
  ...{ sources: [], groups: [], clips: [clip] },
};

it.each<[string, object | null, string | undefined]>([
  ['as it should be', document, undefined],
  ['an empty name', { ...document, name: ' ' }, '/name'],
  ['a character that cannot be kept', { ...document, name: 'a\0' }, '/name'],
  ['too long a name', { ...document, name: '🎬'.repeat(201) }, '/name'],
  [
    'a span that lasts nothing',
    { ...document, clips: [{ ...clip, timing: { start: 0, spans: [{ ...clip.timing.spans[0], frames: 0 }] } }] },
    '/clips/0/timing/spans/0/frames',
  ],
  ['an unknown field', { ...document, colour: 'red' }, ''],
  [
    'a track with neither clip nor gap',
    { ...document, sequence: { ...document.sequence, tracks: [{ ...document.sequence.tracks[0]!, items: [{}] }] } },
    '/sequence/tracks/0/items/0',
  ],
  [
    'too late a start',
    { ...document, sequence: { ...document.sequence, startFrame: MOST_FRAMES + 1 } },
    '/sequence/startFrame',
  ],
  ['nothing', null, ''],
])('a document is judged where no code may be made as it is elsewhere: %s', (_, value, pointer) => {
  const error = check(value);
  expect(checkProjectDocument(value).ok).toBe(error === undefined);
  if (pointer !== undefined) expect(error?.pointer.startsWith(pointer)).toBe(true);
});
