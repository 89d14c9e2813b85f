import type { ProjectDocument } from '@hastig/contract';
import { EditRefused } from '../../retime';
import { layoutOf } from '../layout';
import { findContainer } from '../lookup';
import { withItems } from './items';

/**
 * Takes out a stretch in which nothing lies on any track: what follows moves up on all of them, so that sound and picture stay together.
 *
 * @param from first frame, @param to not included
 * @throws EditRefused where something lies there
 */
export function closeGap(project: ProjectDocument, containerId: string, from: number, to: number): ProjectDocument {
  const tracks = findContainer(project, containerId)?.tracks ?? [];
  const taken = tracks.some((track) =>
    layoutOf(project, track).some((item) => item.clip && item.from < to - 1e-6 && item.to > from + 1e-6),
  );
  if (taken) throw new EditRefused('gap', 'A clip of another track lies there. Move it first.');
  return tracks.reduce((now, track) => {
    const placed = new Map(layoutOf(project, track).map((one) => [one.index, one]));
    return withItems(now, containerId, track.id, (items) =>
      items.map((item, index) => {
        const lies = placed.get(index);
        if (!('gap' in item) || !lies) return item;
        const over = Math.min(lies.to, to) - Math.max(lies.from, from);
        return over > 0 ? { gap: item.gap - over } : item;
      }),
    );
  }, project);
}
