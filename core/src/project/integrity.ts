import type { FieldError, ProjectDocument, Track } from '@hastig/contract';
import { kindOf } from '../counting';
import { groupsInCircles, mostPlayed, playedClips } from '../timeline/held-groups';
import { containersOf, SEQUENCE } from '../timeline/lookup';

/**
 * What a document's schema cannot say: ids are used once, every clip is made of something that is there and lies in one
 * place, and no group contains itself.
 *
 * @returns nothing where all is well
 */
export function integrityErrors(project: ProjectDocument): FieldError[] {
  const errors: FieldError[] = [];
  const once = (things: readonly { id: string }[], pointer: string): Set<string> => {
    const ids = new Set<string>();
    things.forEach(({ id }, index) => {
      if (ids.has(id)) errors.push({ pointer: `${pointer}/${index}/id`, reason: `${id} is used twice` });
      ids.add(id);
    });
    return ids;
  };
  const sources = once(project.sources, '/sources');
  project.sources.forEach(({ facts }, index) => {
    if (!facts.video && !facts.still && !facts.audio)
      errors.push({ pointer: `/sources/${index}/facts`, reason: 'has neither picture nor sound' });
  });
  const groups = once(project.groups, '/groups');
  const clips = once(project.clips, '/clips');
  project.clips.forEach(({ of }, index) => {
    const known = of.kind === 'source' ? sources : groups;
    if (!known.has(of.id)) errors.push({ pointer: `/clips/${index}/of/id`, reason: `there is no ${of.kind} ${of.id}` });
  });
  // Sound alone is not seen, and a still not heard.
  const onOtherTrack = new Map<string, Track['kind']>();
  const kinds = new Map(project.sources.map(({ id, facts }) => [id, kindOf(facts)]));
  for (const { id, of } of project.clips) {
    const footage = of.kind === 'source' ? kinds.get(of.id) : undefined;
    if (footage && footage !== 'video') onOtherTrack.set(id, footage === 'sound' ? 'picture' : 'sound');
  }
  const laid = new Set<string>();
  containersOf(project).forEach(([id, { tracks }], index) => {
    const base = id === SEQUENCE ? '/sequence' : `/groups/${index - 1}`;
    once(tracks, `${base}/tracks`);
    tracks.forEach(({ items, kind }, track) =>
      items.forEach((item, place) => {
        if (!('clip' in item)) return;
        const pointer = `${base}/tracks/${track}/items/${place}/clip`;
        const other = onOtherTrack.get(item.clip);
        if (other === kind) errors.push({ pointer, reason: `${item.clip} can’t be on a ${kind} track` });
        if (!clips.has(item.clip)) errors.push({ pointer, reason: `there is no clip ${item.clip}` });
        if (laid.has(item.clip)) errors.push({ pointer, reason: `${item.clip} is in two places` });
        laid.add(item.clip);
      }),
    );
  });
  project.clips.forEach(({ id }, index) => {
    if (!laid.has(id)) errors.push({ pointer: `/clips/${index}`, reason: `${id} is on no track` });
  });
  // Without groups there are no circles, and no clip is played twice. Walking through the groups ends only where none holds itself.
  if (errors.length > 0 || project.groups.length === 0) return errors;
  for (const groupId of groupsInCircles(project)) {
    const index = project.groups.findIndex(({ id }) => id === groupId);
    errors.push({ pointer: `/groups/${index}`, reason: `${groupId} contains itself` });
  }
  if (errors.length === 0 && playedClips(project) > mostPlayed(project))
    errors.push({
      pointer: '/groups',
      reason: `come to more than ${mostPlayed(project)} clips, those in groups counted each time`,
    });
  return errors;
}

const alike = <T>(before: readonly T[], after: readonly T[], same: (a: T, b: T) => boolean): boolean =>
  before === after ||
  (before.length === after.length && before.every((one, i) => one === after[i] || same(one, after[i]!)));

const sameRows = (before: readonly Track[], after: readonly Track[]): boolean =>
  alike(before, after, (a, b) => a.id === b.id && a.kind === b.kind && a.items === b.items);

/**
 * The same as `integrityErrors` of a project that came of one without errors. Most edits change nothing that is looked at there
 * (a timing, a marker, a name, a sound's level), which is told by what both share: some microseconds instead of milliseconds in a
 * film of thousands of clips.
 *
 * @param before without errors
 * @param after shares what did not change with `before`
 */
export function integrityErrorsOfChange(before: ProjectDocument, after: ProjectDocument): FieldError[] {
  const stands =
    alike(before.sources, after.sources, (a, b) => a.id === b.id && a.facts === b.facts) &&
    alike(before.clips, after.clips, (a, b) => a.id === b.id && a.of.kind === b.of.kind && a.of.id === b.of.id) &&
    alike(before.groups, after.groups, (a, b) => a.id === b.id && sameRows(a.tracks, b.tracks)) &&
    sameRows(before.sequence.tracks, after.sequence.tracks);
  return stands ? [] : integrityErrors(after);
}
