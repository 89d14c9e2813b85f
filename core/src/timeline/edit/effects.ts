import type { Effect, Flash, ProjectDocument } from '@hastig/contract';
import { EditRefused } from '../../retime';
import { layoutOf } from '../layout';
import { ownedList, type PictureOwner } from './owned-list';

/** What is done to pictures of clips and of the film once they are made, one after the other. */
export const effectList = ownedList<'effects'>('effects', (effect) => {
  const { over } = effect;
  if (over && !(over.to > over.from)) throw new EditRefused('over', 'The end must come after the start.');
  if (effect.kind === 'trail' && effect.apart === 0) throw new EditRefused('apart', 'Copies must lie some time apart.');
});

/** Frames of the film at which one picture clip ends and the next begins, on any picture track that is on; rising, each once. */
export function filmCuts(project: ProjectDocument): number[] {
  const cuts = new Set<number>();
  for (const track of project.sequence.tracks) {
    if (track.kind !== 'picture' || track.off) continue;
    const layout = layoutOf(project, track).filter(({ clip }) => clip);
    layout.forEach(({ from }, index) => {
      if (index > 0 && layout[index - 1]!.to === from) cuts.add(from);
    });
  }
  return [...cuts].sort((a, b) => a - b);
}

/** A flash but for where it is. */
export type FlashKind = Pick<Flash, 'way' | 'strength' | 'colour' | 'curve'>;

/** How long a flash is, in frames, and how many of them lie before its peak. */
export interface FlashLength {
  length: number;
  before: number;
}

/** A flash with its peak at a frame; where there are fewer frames before it, it begins later. */
export function flashAt(id: string, at: number, kind: FlashKind, { length, before }: FlashLength): Flash {
  const lead = Math.min(before, length - 1);
  const from = Math.max(0, at - lead);
  const over = { by: 'output' as const, from, to: at - lead + length };
  return { id, kind: 'flash', ...kind, over, peak: at - from };
}

/** The frame of a flash's peak. */
export const peakOf = ({ over, peak }: Flash): number => over.from + peak;

/**
 * Flashes at frames, each a thing of its own. Where one already has its peak, it takes its place.
 *
 * @param frames of the film, or output frames of a clip's timing, at which each has its peak
 */
export function addFlashes(
  project: ProjectDocument,
  owner: PictureOwner,
  frames: readonly number[],
  kind: FlashKind,
  length: FlashLength,
  newId: () => string,
): ProjectDocument {
  if (frames.length === 0) throw new EditRefused('frames', 'There is no cut or mark here.');
  const peaks = new Set(frames);
  return effectList.set(project, owner, (list) => [
    ...list.filter((one) => one.kind !== 'flash' || one.over.by !== 'output' || !peaks.has(peakOf(one))),
    ...frames.map((at) => flashAt(newId(), at, kind, length)),
  ]);
}

/** Takes every flash away but each n-th, counted from the first in time. */
export function thinFlashes(project: ProjectDocument, owner: PictureOwner, keep: number): ProjectDocument {
  return effectList.set(project, owner, (list) => {
    const inTime = list.filter((one) => one.kind === 'flash').sort((a, b) => a.over.from - b.over.from);
    if (inTime.length < 2) throw new EditRefused('flashes', 'There are no flashes to thin out.');
    const kept = new Set<Effect>(inTime.filter((_, index) => index % keep === 0));
    return list.filter((one) => one.kind !== 'flash' || kept.has(one));
  });
}

/** An effect's stretch so many frames later; not before the beginning. */
export function moveEffect(project: ProjectDocument, owner: PictureOwner, id: string, by: number): ProjectDocument {
  return effectList.set(project, owner, (list) =>
    list.map((one) => {
      const { over } = one;
      if (one.id !== id || !over) return one;
      const later = Math.max(by, -over.from);
      return { ...one, over: { ...over, from: over.from + later, to: over.to + later } } as Effect;
    }),
  );
}
