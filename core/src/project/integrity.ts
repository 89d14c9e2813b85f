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
  // Walking through the groups ends only where none holds itself.
  if (errors.length === 0) {
    for (const groupId of groupsInCircles(project)) {
      const index = project.groups.findIndex(({ id }) => id === groupId);
      errors.push({ pointer: `/groups/${index}`, reason: `${groupId} contains itself` });
    }
  }
  if (errors.length === 0 && playedClips(project) > mostPlayed(project))
    errors.push({
      pointer: '/groups',
      reason: `come to more than ${mostPlayed(project)} clips, those in groups counted each time`,
    });
  return errors;
}
