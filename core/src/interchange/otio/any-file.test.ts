import fc from 'fast-check';
import { checkProjectDocument } from '@hastig/contract';
import {
  groupClips,
  integrityErrors,
  OtioUnreadable,
  picturePlan,
  programOf,
  rampSpan,
  readOtio,
  SEQUENCE,
  setMarkers,
  trimClip,
  withTiming,
  writeOtio,
} from '../..';
import { constantSpan } from '../../retime';
import { rowOf } from '../../../test/projects';

type Json = Record<string, unknown>;

const shot = (): ReturnType<typeof rowOf> => {
  const curve = [constantSpan(0.5, 20), rampSpan(0.5, 2, 10), constantSpan(-1, 15)];
  const retimed = withTiming(rowOf(40, 60, 80), 'c0', { start: 0, spans: curve });
  const grouped = groupClips(retimed, ['c1'], { groupId: 'g', clipId: 'cg', name: 'group' });
  const marked = setMarkers(grouped, SEQUENCE, [{ id: 'm', at: 5, name: 'bounce', tone: 'oak' }]);
  return trimClip(marked, 'c2', 'start', 5, 'leave');
};

/** Every place in a JSON value, as the object it is in and its name there. */
function places(value: unknown): [Json, string][] {
  if (value === null || typeof value !== 'object') return [];
  return Object.entries(value).flatMap(([name, inner]) => [[value as Json, name] as [Json, string], ...places(inner)]);
}

const foreign = fc.constantFrom<unknown>(
  ...[null, true, '', 'x', -1, 0, 0.5, 1e9, 1e300, NaN, [], [1, 2], {}, { OTIO_SCHEMA: 'Clip.2' }, 'Gap.1', undefined],
);

it('whatever stands in a file, it becomes a project that is whole and can be saved, or is refused with a reason', () => {
  const project = shot();
  const written = JSON.stringify(writeOtio(project, (sha256) => sha256).json);
  fc.assert(
    fc.property(fc.array(fc.tuple(fc.nat(100_000), foreign), { minLength: 1, maxLength: 3 }), (changes) => {
      const json = JSON.parse(written) as Json;
      for (const [place, value] of changes) {
        const all = places(json);
        const [within, name] = all[place % all.length]!;
        if (value === undefined) delete within[name];
        else within[name] = value;
      }
      let made = 0;
      try {
        const read = readOtio(json, project, () => `n${made++}`).project;
        expect(checkProjectDocument(JSON.parse(JSON.stringify(read)))).toMatchObject({ ok: true });
        expect(integrityErrors(read)).toEqual([]);
        picturePlan(programOf(read, SEQUENCE), read.sequence.rate).at(0);
      } catch (error) {
        if (!(error instanceof OtioUnreadable)) throw error;
        expect(error.message).not.toBe('');
      }
    }),
    { numRuns: 400, seed: 1 },
  );
});

it('a size that no project has is told by its place', () => {
  const project = shot();
  const wide = writeOtio({ ...project, sequence: { ...project.sequence, width: 99_999 } }, (sha256) => sha256).json;
  expect(() => readOtio(wide, project, () => 'n')).toThrow(
    'exceeds a limit of projects: /sequence/width must be <= 16384',
  );
});
